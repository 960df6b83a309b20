//! Edges of a made piece by the names that lines tell them by, and those names as they are read.

use crate::formed::zones::Zone;
use crate::result::PieceResult;

/// Places along a side at which it is looked whether it runs over a panel.
const LOOKS: u32 = 40;

/// Names of the straight sides of the outline that lie on a panel's border.
pub fn edges_on(p: &PieceResult, z: &Zone) -> Vec<String> {
    if !z.is_panel() {
        return Vec::new();
    }
    let outer = &p.flat.outer;
    let mut out = Vec::new();
    for i in 0..outer.vertices.len() {
        let s = outer.segment(i);
        let Some(tag) = p.tags.get(outer.vertices[i].tag as usize).filter(|_| s.is_line()) else { continue };
        let whole = z.contains(s.at(0.01)) && z.contains(s.at(0.99));
        // A side that runs over bends is named part by part.
        let part = !whole && (1..LOOKS).any(|k| z.contains(s.at(f64::from(k) / f64::from(LOOKS))));
        if whole {
            out.push(tag.clone());
        } else if part && let Some(side) = tag.rsplit('.').next() {
            out.push(format!("{}.{side}", z.name));
        }
    }
    out.sort();
    out.dedup();
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
