//! Which fields of a sentence hold values, by their last names.

use super::Part;

/// Last names of the fields whose text is a value, that figures may stand in.
pub fn value_fields(parts: &'static [Part]) -> Vec<&'static str> {
    let mut out = Vec::new();
    collect(parts, &mut out);
    out
}

fn collect(parts: &'static [Part], out: &mut Vec<&'static str>) {
    let last = |path: &'static str| path.rsplit('/').next().unwrap_or_default();
    for part in parts {
        match part {
            Part::Slot(s) if s.kind.is_value() => out.push(last(s.path)),
            Part::Names(n) if n.kind.is_value() => out.push(last(n.path)),
            Part::Union(u) => u.cases.iter().for_each(|c| collect(c.parts, out)),
            Part::Clause(c) => collect(c.parts, out),
            Part::List(l) => collect(l.item, out),
            Part::Within(_, parts) => collect(parts, out),
            Part::Slot(_) | Part::Names(_) | Part::Word(_) | Part::Pick(_) => {}
        }
    }
}
