//! The lines of a piece carried out in order. A line that fails is told and left out, and the rest goes on.

use grammar::Role;
use ground::geom::{Crossing, Cut, CutOutcome, cut_out, first_crossing};
use ground::reader::Tell;

use crate::flat::blank::Blank;
use crate::flat::feature::{Feature, MOST_FEATURES, off_sheet};
use crate::flat::folds::{Laid, Tree, lay_out};
use crate::flat::kept::{Finished, KeptSize, measured};
use crate::flat::spec::{At, Begins, Bends, Spec, Standing, Turn};
use crate::flat::stock::SheetStock;

/// A line, read; without a spec where it could not be.
pub struct LineSpec {
    /// Its place in the recipe.
    pub index: usize,
    pub id: String,
    pub role: Role,
    pub spec: Option<Spec>,
}

impl LineSpec {
    fn at(&self) -> At<'_> {
        At { index: self.index, line: &self.id }
    }
}

/// What lines come to.
pub struct Recipe {
    pub blank: Blank,
    pub features: Vec<Feature>,
    pub outcome: CutOutcome,
    pub tags: Vec<String>,
    /// Where the blank overlaps itself: no cut was made then.
    pub overlap: Option<Crossing>,
    /// Sizes that are kept with the piece.
    pub kept: Vec<KeptSize>,
}

pub fn carry_out(tell: &mut Tell, lines: &[LineSpec], stock: &SheetStock) -> Option<Recipe> {
    let (blank, reliefs) = shape(tell, lines, stock)?;
    let features = features(tell, lines, stock, &blank, reliefs);
    let mut tags = blank.tags.clone();
    let first = tags.len() as u32;
    // An outline that overlaps itself is shown as it is: what a cut would leave of it means nothing.
    let overlap = if blank.zones.len() > 1 { first_crossing(&blank.outer) } else { None };
    let cutting = features.iter().zip(0u32..).filter(|(f, _)| f.is_cut_through() && overlap.is_none());
    let cuts: Vec<Cut> =
        cutting.map(|(f, k)| Cut { contour: f.contour.retagged(first + k), source: k }).collect();
    tags.extend(features.iter().map(|f| f.name.clone()));
    let mut outcome = cut_out(blank.outer.clone(), &cuts);
    if outcome.tangled {
        tell.enter("");
        let message = format!(
            "the cuts overlap one another too much: more than {} in one opening, or too many in one place",
            ground::geom::MOST_JOINED
        );
        tell.refuse_at("/lines", message, "use a larger pitch, or one larger cut");
        return None;
    }
    if outcome.nothing_left {
        tell.enter("");
        let mend = "make the cuts smaller, or switch one off";
        tell.refuse_at("/lines", "the cuts leave nothing of the blank", mend);
        return None;
    }
    // What is pressed or drilled blind needs sheet under all of it: off the sheet it is left out, as a cut
    // that meets nothing is. A pad may hang over.
    outcome.missed.extend(off_sheet(&features, &outcome.outer));
    for (line, spec) in lines.iter().filter_map(|l| l.spec.as_ref()?.corners().map(|s| (l, s))) {
        tell.enter(&line.id);
        let turn = &mut Turn { tell, at: line.at(), stock };
        if let Some(next) = spec.round(turn, &outcome.outer, &blank, &tags) {
            outcome.outer = next;
        }
    }
    // Sizes look last: at the flat as it leaves the cutter.
    let on = Finished { outcome: &outcome, blank: &blank, tags: &tags, features: &features };
    let mut kept = Vec::new();
    for line in lines {
        let Some(Spec::Kept(spec)) = &line.spec else { continue };
        tell.enter(&line.id);
        kept.extend(measured(&mut Turn { tell, at: line.at(), stock }, spec, &on));
    }
    Some(Recipe { blank, features, outcome, tags, overlap, kept })
}

/// What is cut and pressed, line by line; `reliefs` are those that corners ask for.
fn features(
    tell: &mut Tell,
    lines: &[LineSpec],
    stock: &SheetStock,
    blank: &Blank,
    reliefs: Vec<Feature>,
) -> Vec<Feature> {
    let bending: Vec<String> = lines.iter().filter(|l| l.role == Role::Bend).map(|l| l.id.clone()).collect();
    let mut above: Vec<(String, Vec<Feature>)> = Vec::new();
    let mut count = 0;
    for line in lines {
        ground::halt::point();
        tell.enter(&line.id);
        let made = match &line.spec {
            Some(Spec::Cuts(spec)) => {
                let standing = Standing { blank, above: &above, bending: &bending };
                spec.cut(&mut Turn { tell, at: line.at(), stock }, &standing)
            }
            of => {
                let start = of.as_ref().and_then(|s| s.start());
                let mut own = start.map_or_else(Vec::new, |s| s.cuts(line.at(), blank.outer.bounds()));
                own.extend(reliefs.iter().filter(|r| r.line == line.index).cloned());
                Some(own).filter(|r| !r.is_empty())
            }
        };
        let Some(made) = made else { continue };
        if count + made.len() > MOST_FEATURES {
            let message = format!(
                "with this line the piece has {} cuts; {MOST_FEATURES} is the most for one piece",
                count + made.len()
            );
            tell.refuse_at("/say/verb", message, "repeat fewer, or split the piece");
            continue;
        }
        count += made.len();
        above.push((line.id.clone(), made));
    }
    above.into_iter().flat_map(|m| m.1).collect()
}

/// What makes the blank: the start, then folds, tabs and bend lines in their order, wherever cuts stand
/// between them. Returns the cuts that corner reliefs ask for beside it.
fn shape(tell: &mut Tell, lines: &[LineSpec], stock: &SheetStock) -> Option<(Blank, Vec<Feature>)> {
    let mut standing: Option<(Blank, Tree)> = None;
    let mut bends: Vec<(&LineSpec, &dyn Bends)> = Vec::new();
    for line in lines {
        ground::halt::point();
        tell.enter(&line.id);
        let turn = &mut Turn { tell, at: line.at(), stock };
        match &mut standing {
            None if line.role == Role::Start => standing = Some(start(turn, line.spec.as_ref()?.start()?)?),
            Some(_) if line.role == Role::Start => turn.tell.refuse_at(
                "/say/verb",
                "a piece starts once",
                "take this line out, or make it a piece of its own",
            ),
            None => turn.tell.refuse_at(
                "/say/verb",
                "nothing stands here yet to work on",
                "put a start line above this one",
            ),
            Some((_, tree)) => match &line.spec {
                Some(Spec::Panels(spec)) => drop(spec.hang(turn, tree)),
                Some(Spec::Bends(spec)) => bends.push((line, &**spec)),
                _ => {}
            },
        }
    }
    let (mut blank, tree) = standing?;
    let mut reliefs = Vec::new();
    if tree.nodes.len() > 1 || !bends.is_empty() || tree.tags.len() > blank.tags.len() {
        let mut laid = laid_out(tell, tree, &mut blank.tags);
        for (line, spec) in bends {
            tell.enter(&line.id);
            spec.bend(&mut Turn { tell, at: line.at(), stock }, &mut laid, &blank.tags);
        }
        let bounds = laid.outer.bounds();
        reliefs = laid.reliefs.into_iter().map(|r| Feature::relief(r, bounds)).collect();
        blank.outer = laid.outer;
        blank.zones = laid.zones;
        blank.bends.extend(laid.bends);
        blank.corners = laid.corners;
        blank.narrowed = laid.narrowed;
    }
    Some((blank, reliefs))
}

/// The blank, and the tree that panels hang on, with those of the start itself.
fn start(turn: &mut Turn, spec: &dyn Begins) -> Option<(Blank, Tree)> {
    let blank = spec.blank(turn)?;
    let mut tree = Tree::new(&blank.outer, blank.tags.clone(), &blank.zones, turn.stock.t);
    if let Some(panels) = spec.panels() {
        panels.hang(turn, &mut tree)?;
    }
    Some((blank, tree))
}

/// The tree laid out; folds that have no room are told and left out.
fn laid_out(tell: &mut Tell, mut tree: Tree, tags: &mut Vec<String>) -> Laid {
    loop {
        let laid = lay_out(&tree);
        let Some(trouble) = laid.troubles.first() else {
            for (told, name) in &laid.unmet {
                let told = &tree.closings[*told];
                tell.enter(&told.line);
                let known = if laid.corner_names.is_empty() {
                    "fold two neighbouring edges first".to_string()
                } else {
                    format!("pick from {}", laid.corner_names.join(", "))
                };
                tell.refuse_at("/say/at", format!("no two folds meet at a corner called '{name}'"), known);
            }
            *tags = tree.tags;
            return laid;
        };
        if let Some(spec) = &tree.nodes[trouble.node].spec {
            tell.enter(&spec.line);
            tell.refuse_at(spec.width_at, trouble.message.clone(), trouble.mend.clone());
        }
        let node = trouble.node;
        tree.nodes[node].off = true;
    }
}
