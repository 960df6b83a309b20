//! The edges that a line picks for what it hangs on them.

use super::tree::{DEEPEST, Edge, Tree};
use crate::flat::spec::Turn;
use ground::geom::ROUNDING;
use ground::reference;

/// The most panels a piece may be folded from.
pub const MOST_PANELS: usize = 300;

/// An edge, and the panel that comes to hang on it: `fold-1.north`.
pub struct Picked {
    pub edge: Edge,
    pub panel: String,
}

/// The edges that a line names, each to take so many panels one behind the other; none named means every
/// straight side of the start.
pub fn pick_edges(turn: &mut Turn, tree: &Tree, names: &[String], chain: usize) -> Option<Vec<Picked>> {
    let every: Vec<String> = if names.is_empty() {
        let sides = tree.nodes[0].sides.iter().filter(|s| s.bulge.abs() < ROUNDING && s.folds.is_empty());
        sides.filter_map(|s| tree.tags.get(s.tag as usize).cloned()).collect()
    } else {
        names.to_vec()
    };
    let at = |i: usize| if names.is_empty() { "/say/edges".into() } else { format!("/say/edges/{i}") };
    let mut out: Vec<Picked> = Vec::new();
    for (i, name) in every.iter().enumerate() {
        if every[..i].contains(name) {
            turn.tell.refuse_at(&at(i), format!("'{name}' is named twice"), known(tree));
            return None;
        }
        let edge = find(turn, tree, &at(i), name)?;
        out.push(Picked { edge, panel: reference::part(turn.at.line, short(tree, name)) });
    }
    if out.is_empty() {
        let message = "there is no straight edge left to fold";
        turn.tell.refuse_at("/say/edges", message, "name an edge of a panel");
        return None;
    }
    room(turn, tree, out.iter().map(|p| &p.edge), "/say/edges", chain)?;
    Some(out)
}

/// The one edge that a field of the line names.
pub fn pick_edge(turn: &mut Turn, tree: &Tree, at: &str, name: &str) -> Option<Edge> {
    let edge = find(turn, tree, at, name)?;
    room(turn, tree, std::iter::once(&edge), at, 1)?;
    Some(edge)
}

fn find(turn: &mut Turn, tree: &Tree, at: &str, name: &str) -> Option<Edge> {
    tree.edge(name).map_err(|message| turn.tell.refuse_at(at, message, known(tree))).ok()
}

fn known(tree: &Tree) -> String {
    let known = tree.edge_names();
    let more = if known.len() > 12 { ", …" } else { "" };
    format!("pick from {}{more}", known[..known.len().min(12)].join(", "))
}

/// Whether so many panels more may hang there.
fn room<'e>(
    turn: &mut Turn,
    tree: &Tree,
    edges: impl Iterator<Item = &'e Edge>,
    at: &str,
    chain: usize,
) -> Option<()> {
    let edges: Vec<&Edge> = edges.collect();
    let message = if edges.iter().any(|e| tree.nodes[e.node].deep + chain > DEEPEST) {
        format!("more than {DEEPEST} panels would hang one behind the other here")
    } else if tree.nodes.len() + edges.len() * chain > MOST_PANELS {
        format!("a piece may have at most {MOST_PANELS} panels")
    } else {
        return Some(());
    };
    turn.tell.refuse_at(at, message, "split the piece");
    None
}

/// `start-1.north` → `north`; elsewhere the whole edge's name, so that no two are alike.
fn short(tree: &Tree, name: &str) -> String {
    let start = tree.base.first().map_or("", |z| z.line.as_str());
    reference::within(name, start).unwrap_or(name).replace('.', "-")
}
