//! A piece evaluated: its lines read, carried out in order, and looked at from all sides. The same piece
//! gives the same result, and no input makes it panic.

use std::collections::HashSet;
use std::sync::OnceLock;

use ground::geom::{Crossing, Cut, CutOutcome, cut_out, first_crossing};
use ground::quantity::Display;
use ground::reader::{Range, Reader};
use shop::brake::BrakeOf;
use shop::{Material, SheetShop, gauge_number, limits, thickness};

use crate::brake::{Effort, Search};
use crate::context::PieceContext;
use crate::flat::blank::{self, Blank};
use crate::flat::feature::{self, Feature, MOST_FEATURES};
use crate::flat::folds::{self, Tree};
use crate::flat::strip::{self, SheetStock};
use crate::flat::{corners, fill, pressed, punch, repeat, starts};
use crate::formed::zones;
use crate::piece::{Line, Piece};
use crate::result::{CornerName, FeatureName, Flat, PieceResult};
use crate::verbs::Say;
use crate::{annotations, bend_rows, brake, figures, findings};

/// The most pieces a job, and lines a piece, may have.
pub const MOST_PIECES: usize = 500;
pub const MOST_LINES: usize = 500;

/// Past this many cuts in all, the rest of a job is left out.
pub const MOST_JOB_FEATURES: usize = 400_000;

/// One piece, made in a shop.
pub fn evaluate_piece(shop: &SheetShop, piece: &Piece) -> PieceResult {
    evaluate_searching(shop, piece, &mut Search { effort: Effort::SHORT, on: &mut |_| true })
}

/// The same, with an order of bends that is searched for as long as told.
pub fn evaluate_searching(shop: &SheetShop, piece: &Piece, how: &mut Search) -> PieceResult {
    let display = piece.display.unwrap_or(shop.display);
    let mut reader = Reader::new(&shop.figures, display);
    let mut out = empty(piece, display);
    let quantity = reader.count("/quantity", &piece.quantity, 1, 1_000_000);
    out.quantity = quantity.unwrap_or(0);
    let Some(material) = shop.materials.material(&piece.material) else {
        reader.refuse(
            "/material",
            &piece.material,
            format!("neither the shop book nor this job has a material '{}'", piece.material),
            shop.materials.said(),
        );
        out.faults = reader.faults;
        return out;
    };
    let material = &*material;
    out.material = material.name.clone();
    let Some((t, t_working)) = thickness(&mut reader, "/thickness", &piece.thickness, Some(material)) else {
        out.faults = reader.faults;
        return out;
    };
    reader.names.t = Some(t);
    let r = radius(&mut reader, piece, material, t);
    reader.names.r = Some(r);
    out.thickness = t;
    out.thickness_text = gauge_number(&piece.thickness)
        .map_or_else(|| display.thickness(t), |n| format!("{n} ga ({})", display.fine(t)));
    out.radius = r;
    let rule = piece.bend_rule.as_ref().unwrap_or(&shop.bend_rule);
    let stuff = SheetStock { material, t, r, rule, book: &shop.bends };
    if let Some(recipe) = carry_out(&mut reader, piece, &stuff) {
        let made = PieceContext {
            shop,
            piece,
            material,
            t,
            t_working,
            r,
            blank: &recipe.blank,
            features: &recipe.features,
            outcome: &recipe.outcome,
            display,
            tags: &recipe.tags,
            overlap: recipe.overlap,
        };
        finish(&mut out, &made, &stuff, &shop.brake, how);
    }
    out.faults = reader.faults;
    out
}

fn empty(piece: &Piece, display: Display) -> PieceResult {
    PieceResult {
        id: piece.id.clone(),
        mark: piece.mark.clone(),
        name: piece.name.clone(),
        quantity: 0,
        material: String::new(),
        material_id: piece.material.clone(),
        thickness: 0.0,
        thickness_text: String::new(),
        radius: 0.0,
        display,
        made: false,
        zones: Vec::new(),
        outside: Vec::new(),
        carries: Vec::new(),
        flat: Flat::default(),
        tags: Vec::new(),
        features: Vec::new(),
        corners: Vec::new(),
        mesh: OnceLock::new(),
        bend_rows: Vec::new(),
        plan: Default::default(),
        figures: Vec::new(),
        findings: Vec::new(),
        faults: Vec::new(),
    }
}

/// The piece's usual inside radius; where none is told, the smallest its material allows.
fn radius(reader: &mut Reader, piece: &Piece, material: &Material, t: f64) -> f64 {
    let smallest = limits::smallest_radius(material, t).map_or(t, |l| l.value);
    if piece.radius.trim().is_empty() {
        return smallest;
    }
    reader.length("/radius", &piece.radius, Range::ZeroUp).unwrap_or(smallest)
}

struct Recipe {
    blank: Blank,
    features: Vec<Feature>,
    outcome: CutOutcome,
    tags: Vec<String>,
    overlap: Option<Crossing>,
}

/// The lines in order. A line that fails is left out, and the rest goes on.
fn carry_out(reader: &mut Reader, piece: &Piece, stuff: &SheetStock) -> Option<Recipe> {
    if piece.lines.len() > MOST_LINES {
        reader.refuse(
            "/lines",
            "",
            format!("the recipe has {} lines; {MOST_LINES} is the most", piece.lines.len()),
            "use repeat and mirror, or split the piece",
        );
        return None;
    }
    let lines: Vec<(usize, &Line)> = piece.lines.iter().enumerate().filter(|(_, l)| !l.off).collect();
    let lines = named(reader, lines);
    reader.bending = lines.iter().filter(|l| l.1.say.bends()).map(|l| l.1.id.clone()).collect();
    let (blank, reliefs) = shape(reader, &lines, stuff)?;
    let mut made: Vec<(String, Vec<Feature>)> = Vec::new();
    let mut rounds = Vec::new();
    let mut cuts = 0;
    for &(i, line) in &lines {
        ground::halt::point();
        reader.enter_line(i, &line.id);
        let features = match &line.say {
            Say::Notch(s) => punch::notch(reader, &line.id, i, s, &blank).map(|f| vec![f]),
            Say::Punch(s) => punch::punch(reader, &line.id, i, s, &blank).map(|f| vec![f]),
            Say::Fill(s) => fill::fill(reader, &line.id, i, s, &made, &blank, stuff),
            Say::Rib(s) => pressed::rib(reader, &line.id, i, s, &blank, stuff).map(|f| vec![f]),
            Say::Press(s) => pressed::press(reader, &line.id, i, s, &blank, stuff),
            Say::Repeat(s) => repeat::repeat(reader, &line.id, i, s, &made, &blank),
            Say::Ring(s) => repeat::ring(reader, &line.id, i, s, &made, &blank),
            Say::Path(s) => repeat::path(reader, &line.id, i, s, &made),
            Say::Mirror(s) => repeat::mirror(reader, &line.id, i, s, &made, &blank),
            Say::Corner(_) => Some(reliefs.iter().filter(|r| r.line == i).cloned().collect()),
            s if s.is_start() => Some(reliefs.iter().filter(|r| r.line == i).cloned().collect()),
            Say::Round(s) => {
                rounds.push((i, line, s));
                None
            }
            _ => None,
        };
        let Some(features) = features else { continue };
        cuts += features.len();
        if cuts > MOST_FEATURES {
            cuts -= features.len();
            let message = format!(
                "with this line the piece has {} cuts; {MOST_FEATURES} is the most for one piece",
                cuts + features.len()
            );
            reader.refuse("/say/verb", "", message, "repeat fewer, or split the piece");
            continue;
        }
        made.push((line.id.clone(), features));
    }
    let features: Vec<Feature> = made.into_iter().flat_map(|m| m.1).collect();
    let mut tags = blank.tags.clone();
    let first = tags.len() as u32;
    // An outline that overlaps itself is shown as it is: what a cut would leave of it means nothing.
    let overlap = if blank.zones.len() > 1 { first_crossing(&blank.outer) } else { None };
    let cutting = features.iter().zip(0u32..).filter(|(f, _)| f.pressed.is_none() && overlap.is_none());
    let cuts: Vec<Cut> =
        cutting.map(|(f, k)| Cut { contour: f.contour.retagged(first + k), source: k }).collect();
    tags.extend(features.iter().map(|f| f.name.clone()));
    let mut outcome = cut_out(blank.outer.clone(), &cuts);
    if outcome.tangled {
        reader.enter("");
        let message = format!(
            "the cuts overlap one another too much: more than {} in one opening, or too many in one place",
            ground::geom::MOST_JOINED
        );
        reader.refuse("/lines", "", message, "use a larger pitch, or one larger cut");
        return None;
    }
    if outcome.nothing_left {
        reader.enter("");
        reader.refuse(
            "/lines",
            "",
            "the cuts leave nothing of the blank",
            "make the cuts smaller, or switch one off",
        );
        return None;
    }
    // What is pressed needs sheet under all of it: off the sheet it is left out, as a cut that meets nothing
    // is.
    outcome.missed.extend(feature::off_sheet(&features, &outcome.outer));
    // Corners are rounded last: a cut may make the corner that a hand would feel.
    for (i, line, say) in rounds {
        reader.enter_line(i, &line.id);
        if let Some(next) = corners::round(reader, say, &outcome.outer, &blank, &tags) {
            outcome.outer = next;
        }
    }
    Some(Recipe { blank, features, outcome, tags, overlap })
}

/// Lines whose ids are their own; the others are told and left out.
fn named<'a>(reader: &mut Reader, lines: Vec<(usize, &'a Line)>) -> Vec<(usize, &'a Line)> {
    let mut seen = HashSet::new();
    lines.into_iter().filter(|(_, line)| ground::line_names::own_name(reader, &mut seen, &line.id)).collect()
}

/// What makes the blank: the start, then folds, tabs and bend lines in their order, wherever cuts stand
/// between them. Returns the cuts that corner reliefs ask for beside it.
fn shape(reader: &mut Reader, lines: &[(usize, &Line)], stuff: &SheetStock) -> Option<(Blank, Vec<Feature>)> {
    let mut blank: Option<Blank> = None;
    let mut tree: Option<Tree> = None;
    let mut bend_lines = Vec::new();
    for &(index, line) in lines {
        ground::halt::point();
        reader.enter_line(index, &line.id);
        let at = folds::At { index, line: &line.id };
        if line.say.is_start() {
            if blank.is_some() {
                reader.refuse(
                    "/say/verb",
                    "",
                    "a piece starts once",
                    "take this line out, or make it a piece of its own",
                );
                continue;
            }
            let made = match &line.say {
                Say::StartPlate(s) => blank::plate(reader, &line.id, s),
                Say::StartStrip(s) => strip::strip(reader, &line.id, s, stuff),
                Say::StartOutline(s) => blank::outline(reader, &line.id, s),
                Say::StartChannel(s) => starts::channel(reader, &line.id, s, stuff),
                Say::StartTray(s) => starts::tray(reader, &line.id, s),
                Say::StartRolled(s) => starts::rolled(reader, &line.id, s, stuff),
                Say::StartCone(s) => starts::cone(reader, &line.id, s, stuff),
                _ => None,
            }?;
            let mut new = Tree::new(&made.outer, made.tags.clone(), &made.zones, stuff.t);
            if let Say::StartTray(s) = &line.say {
                folds::tray_folds(reader, &mut new, at, s, stuff)?;
            }
            tree = Some(new);
            blank = Some(made);
            continue;
        }
        let Some(tree) = &mut tree else {
            reader.refuse(
                "/say/verb",
                "",
                "nothing stands here yet to work on",
                "put a start line above this one",
            );
            continue;
        };
        match &line.say {
            Say::Fold(s) => folds::fold(reader, tree, at, s, stuff),
            Say::Hem(s) => folds::hem(reader, tree, at, s, stuff),
            Say::Joggle(s) => folds::joggle(reader, tree, at, s, stuff),
            Say::Tab(s) => folds::tab(reader, tree, at, s),
            Say::Corner(s) => folds::corner(reader, tree, at, s),
            Say::BendLine(s) => {
                bend_lines.push((at, s));
                None
            }
            _ => None,
        };
    }
    let (mut blank, tree) = (blank?, tree?);
    let mut reliefs = Vec::new();
    if tree.nodes.len() > 1 || !bend_lines.is_empty() || tree.tags.len() > blank.tags.len() {
        let mut laid = laid_out(reader, tree, &mut blank.tags, lines);
        for (at, say) in bend_lines {
            reader.enter_line(at.index, at.line);
            folds::bend_line(reader, &mut laid, &blank.tags, at, say, stuff);
        }
        let bounds = laid.outer.bounds();
        let feature =
            |r: folds::ReliefCut| Feature::cut(r.name, r.index, r.contour, r.centre, r.least, bounds);
        reliefs = laid.reliefs.into_iter().map(feature).collect();
        blank.outer = laid.outer;
        blank.zones = laid.zones;
        blank.bends.extend(laid.bends);
        blank.corners = laid.corners;
        blank.narrowed = laid.narrowed;
    }
    Some((blank, reliefs))
}

/// The tree laid out; folds that have no room are told and left out.
fn laid_out(
    reader: &mut Reader,
    mut tree: Tree,
    tags: &mut Vec<String>,
    lines: &[(usize, &Line)],
) -> folds::Laid {
    loop {
        let laid = folds::lay_out(&tree);
        let Some(trouble) = laid.troubles.first() else {
            for (told, name) in &laid.unmet {
                let told = &tree.closings[*told];
                reader.enter_line(told.index, &told.line);
                let known = if laid.corner_names.is_empty() {
                    "fold two neighbouring edges first".to_string()
                } else {
                    format!("pick from {}", laid.corner_names.join(", "))
                };
                reader.refuse(
                    "/say/at",
                    name,
                    format!("no two folds meet at a corner called '{name}'"),
                    known,
                );
            }
            *tags = tree.tags;
            return laid;
        };
        if let Some(spec) = &tree.nodes[trouble.node].spec {
            reader.enter_line(spec.index, &spec.line);
            let say = lines.iter().find(|l| l.0 == spec.index).map(|l| &l.1.say);
            let path =
                if matches!(say, Some(Say::StartTray(_) | Say::Tab(_))) { "/say/width" } else { "/say/span" };
            reader.refuse(path, "", trouble.message.clone(), trouble.mend.clone());
        }
        let node = trouble.node;
        tree.nodes[node].off = true;
    }
}

fn finish(
    out: &mut PieceResult,
    made: &PieceContext,
    stuff: &SheetStock,
    machine: &BrakeOf,
    how: &mut Search,
) {
    let outcome = made.outcome;
    out.made = true;
    out.zones = made.blank.zones.clone();
    let carries = |z: &zones::Zone| (made.blank.zones.len() > 1 && z.is_panel()) || made.blank.is_shell(z);
    out.carries = out.zones.iter().map(carries).collect();
    out.outside = (0..out.zones.len()).map(|k| punch::outside_box(made.blank, k)).collect();
    out.tags = made.tags.to_vec();
    let id = |f: &Feature| made.piece.lines.get(f.line).map_or(String::new(), |l| l.id.clone());
    out.features = made
        .features
        .iter()
        .map(|f| FeatureName { name: f.name.clone(), line: id(f), light: f.light })
        .collect();
    out.corners = corners::names(&outcome.outer, made.blank, made.tags)
        .into_iter()
        .map(|(i, name, _)| CornerName { name, at: outcome.outer.vertices[i].p.to_array() })
        .collect();
    let bends = annotations::bend_marks(made);
    out.flat = Flat {
        outer: outcome.outer.clone(),
        holes: outcome.holes.clone(),
        dropped: outcome.dropped.clone(),
        dimensions: annotations::dimensions(made, &bends),
        marks: annotations::hole_marks(made),
        pressed: annotations::pressed_marks(made),
        bends,
        guides: Vec::new(),
    };
    out.plan = brake::plan(made, machine, how);
    out.figures = figures::figures(made, &out.flat, &out.zones);
    out.bend_rows = bend_rows::rows(made, &out.flat.bends, &out.plan, stuff, out.value("mass"));
    out.findings = findings::findings(made, out);
}
