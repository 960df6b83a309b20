//! Edges of a made piece by the names that lines tell them by, and those names as they are read.

use glam::DVec2;
use ground::geom::Segment;
use ground::reference::{self, part};

use crate::flat::corners::corner_name;
use crate::formed::zones::Zone;
use crate::result::PieceResult;

/// Places along a side at which it is looked whether it runs over a panel.
const LOOKS: u32 = 40;

/// A straight side of the outline that lies on a panel's border.
pub struct SideOn {
    pub name: String,
    pub side: Segment,
    /// Whether all of it lies there: one that runs over bends is named part by part.
    pub whole: bool,
}

/// The straight sides of the outline that lie on a panel's border.
pub fn sides_on(p: &PieceResult, z: &Zone) -> Vec<SideOn> {
    if !z.is_panel() {
        return Vec::new();
    }
    let outer = &p.flat.outer;
    let on = |i: usize| {
        let side = outer.segment(i);
        let tag = p.tags.get(outer.vertices[i].tag as usize).filter(|_| side.is_line())?;
        if z.contains(side.at(0.01)) && z.contains(side.at(0.99)) {
            return Some(SideOn { name: tag.clone(), side, whole: true });
        }
        let over = (1..LOOKS).any(|k| z.contains(side.at(f64::from(k) / f64::from(LOOKS))));
        let last = tag.rsplit('.').next().filter(|_| over)?;
        Some(SideOn { name: part(&z.name, last), side, whole: false })
    };
    (0..outer.vertices.len()).filter_map(on).collect()
}

/// Their names.
pub fn edges_on(p: &PieceResult, z: &Zone) -> Vec<String> {
    let mut out: Vec<String> = sides_on(p, z).into_iter().map(|s| s.name).collect();
    out.sort();
    out.dedup();
    out
}

/// A curved side of the outline, or a rounded corner.
pub struct ArcOn {
    pub name: String,
    pub centre: DVec2,
    pub radius: f64,
}

/// The curved sides of the outline by their names, and rounded corners by those that sharp ones would have.
pub fn arcs_on(p: &PieceResult) -> Vec<ArcOn> {
    let outer = &p.flat.outer;
    let n = outer.vertices.len();
    let line = p.zones.first().map_or("", |z| z.line.as_str());
    let tag = |i: usize| p.tags.get(outer.vertices[i % n].tag as usize).map_or("", String::as_str);
    let short = |i: usize| reference::within(tag(i), line).unwrap_or_else(|| tag(i));
    let mut out: Vec<ArcOn> = Vec::new();
    for i in 0..n {
        let Some(arc) = outer.segment(i).arc() else { continue };
        let (before, after) = ((i + n - 1) % n, (i + 1) % n);
        let straight = outer.segment(before).is_line() && outer.segment(after).is_line();
        let rounds = straight
            && short(before) != short(after)
            && [before, after].iter().any(|k| short(*k) == short(i));
        let name = if rounds { corner_name(short(before), short(after)) } else { tag(i).to_string() };
        if !name.is_empty() && out.iter().all(|a| a.name != name) {
            out.push(ArcOn { name, centre: arc.centre, radius: arc.radius });
        }
    }
    out
}

/// A name as a person says it: `start-1.north` is north, `start-1.b.north` leg b north.
pub fn said_of(name: &str) -> String {
    let mut parts: Vec<&str> = name.split('.').collect();
    let number = parts[0].strip_prefix("start-").unwrap_or_default();
    let is_start = !number.is_empty() && number.bytes().all(|b| b.is_ascii_digit());
    if !is_start || parts.len() == 1 {
        return parts.join(" ");
    }
    parts.remove(0);
    let mut id = parts[0].chars();
    let is_leg = id.next().is_some_and(|c| c.is_ascii_lowercase()) && id.all(|c| c.is_ascii_digit());
    if is_leg { format!("leg {}", parts.join(" ")) } else { parts.join(" ") }
}

/// The same in a piece: what a strip calls its leg b is a side of a contour, and is called b alone.
pub fn said_in(p: &PieceResult, name: &str) -> String {
    let said = said_of(name);
    match said.strip_prefix("leg ").filter(|_| p.lettered) {
        Some(side) => side.to_string(),
        None => said,
    }
}

/// A bend as a person calls it: one that has only a number is told as one.
pub fn bend_said(p: &PieceResult, label: &str) -> String {
    let said = said_in(p, label);
    if said.chars().all(|c| c.is_ascii_digit()) { format!("bend {said}") } else { said }
}

/// A sentence with the names of the start as a person says them: `bend start-1.1` is bend 1.
pub fn in_words(p: &PieceResult, sentence: &str) -> String {
    let word = |word: &str| {
        let name = word.trim_matches(|c: char| matches!(c, ':' | ',' | ';' | '.' | '(' | ')'));
        let said = said_in(p, name);
        if name.starts_with("start-") && said != name { word.replace(name, &said) } else { word.to_string() }
    };
    sentence.split(' ').map(word).collect::<Vec<_>>().join(" ")
}

#[cfg(test)]
mod tests {
    #[test]
    fn names_are_read_as_a_person_says_them() {
        for (name, said) in [
            ("start-1.north", "north"),
            ("start-1.b.north", "leg b north"),
            ("start-12.b", "leg b"),
            ("start-1.a12.south", "leg a12 south"),
            ("start-1.1", "1"),
            ("start-1", "start-1"),
            ("start-x.b", "start-x b"),
            ("fold-1.north.tip", "fold-1 north tip"),
            ("", ""),
        ] {
            assert_eq!(super::said_of(name), said, "{name}");
        }
    }
}
