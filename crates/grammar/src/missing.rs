//! What a line that was read lacks: the first slot that must be told and is not.

use super::parse::Reading;
use super::{Part, When, WordKind};

impl Reading<'_> {
    /// A clause that the line must have and has not, told in no other way either.
    pub fn missing(&self) -> Option<(usize, &'static str)> {
        self.needed.iter().find_map(|(at, clause, pre)| {
            let (_, label) = *slots(clause.parts).first()?;
            let told = |path: &str| self.out.iter().find(|(p, _)| p.strip_prefix(pre.as_str()) == Some(path));
            let below = |p: &str, path: &str| {
                p.strip_prefix(path).is_some_and(|rest| rest.is_empty() || rest.starts_with('/'))
            };
            let any = self
                .out
                .iter()
                .filter_map(|(p, _)| p.strip_prefix(pre.as_str()))
                .any(|p| slots(clause.parts).iter().any(|s| below(p, s.0)));
            let text = |path: &str| told(path).and_then(|t| t.1.as_str()).unwrap_or_default();
            let meant = match clause.only {
                When::Is(path, of) => of.contains(&text(path)),
                When::IsNot(path, of) => !of.contains(&text(path)),
                _ => true,
            };
            (meant && !any).then_some((*at, label))
        })
    }
}

/// Whether a line is whole without this part.
pub(super) fn may_lack(part: &Part) -> bool {
    match part {
        Part::Word(w) => {
            matches!(w.kind, WordKind::Aloud | WordKind::Heard | WordKind::Printed | WordKind::Sign)
        }
        Part::Slot(s) => s.empty.is_some() || !s.usual.is_empty(),
        Part::Names(n) => n.empty.is_some(),
        Part::Pick(p) => p.quiet || p.lacks,
        Part::Union(u) => u.quiet,
        Part::List(l) => l.least == 0,
        Part::Within(..) | Part::Clause(_) => false,
    }
}

/// The values of a clause: their paths and what they are called.
pub(super) fn slots(parts: &'static [Part]) -> Vec<(&'static str, &'static str)> {
    let of = |p: &'static Part| match p {
        Part::Slot(s) => Some((s.path, s.label)),
        Part::Names(n) => Some((n.path, n.label)),
        Part::Union(u) => Some((u.path, u.label)),
        Part::List(l) => Some((l.path, l.label)),
        _ => None,
    };
    parts.iter().filter_map(of).collect()
}
