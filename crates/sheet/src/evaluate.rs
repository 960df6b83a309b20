//! A piece evaluated: its lines read, carried out in order, and looked at from all sides. The same piece
//! gives the same result, and no input makes it panic.

use std::cell::OnceCell;
use std::collections::{HashMap, HashSet};
use std::sync::OnceLock;

use ground::lines;
use ground::quantity::Display;
use ground::reader::{Range, Reader};
use ground::reference;
use ground::working::Working;
use shop::{Material, SheetShop, gauge_number, limits, thickness};

use crate::brake::Search;
use crate::context::PieceContext;
use crate::edge_bevel::BevelMark;
use crate::edges::in_words;
use crate::flat::bend_allowance::Rule;
use crate::flat::corners;
use crate::flat::feature::Feature;
use crate::flat::place::outside_box;
use crate::flat::stock::SheetStock;
use crate::formed::zones;
use crate::piece::{Line, Piece};
use crate::recipe::{LineSpec, Recipe, carry_out};
use crate::result::{CornerName, Family, FeatureName, Flat, FoundValue, PieceResult};
use crate::{annotations, bend_rows, brake, figures, findings};

/// The most pieces a job, and lines a piece, may have.
pub const MOST_PIECES: usize = 500;
pub const MOST_LINES: usize = 500;

/// Past this many cuts in all, the rest of a job is left out.
pub const MOST_JOB_FEATURES: usize = 400_000;

/// One piece alone, made in a shop, with an order of bends that is searched for as long as told.
pub fn evaluate_alone(shop: &SheetShop, piece: &Piece, how: &mut Search) -> PieceResult {
    let display = piece.display.unwrap_or(shop.display);
    let mut reader = Reader::new(&shop.figures, display);
    let mut out = empty(piece, display);
    make(&mut out, &mut reader, shop, piece, how);
    out.faults = lines::settled(reader.tell, piece, &piece.lines);
    out
}

fn make(
    out: &mut PieceResult,
    reader: &mut Reader,
    shop: &SheetShop,
    piece: &Piece,
    how: &mut Search,
) -> Option<()> {
    out.quantity = reader.count("/quantity", &piece.quantity, 0, 1_000_000).unwrap_or(0);
    let Some(material) = shop.materials.material(&piece.material) else {
        reader.refuse_at(
            "/material",
            format!("neither the shop book nor this job has a material '{}'", piece.material),
            shop.materials.said(),
        );
        return None;
    };
    out.material = material.name.clone();
    let (t, t_working) = thickness(reader, "/thickness", &piece.thickness, Some(&material))?;
    reader.names.t = Some(t);
    let r = radius(reader, piece, &material, t);
    reader.names.r = Some(r);
    (out.thickness, out.radius) = (t, r);
    let display = out.display;
    out.thickness_text = gauge_number(&piece.thickness)
        .map_or_else(|| display.thickness(t), |n| format!("{n} ga ({})", display.fine(t)));
    let rule = Rule::read(reader, "/bend_rule", piece.bend_rule.as_ref().unwrap_or(&shop.bend_rule));
    let stock =
        SheetStock { material: &material, t, r, rule: &rule, book: &shop.bends, shelf: &shop.materials };
    let lines = read_lines(reader, piece, &stock)?;
    for line in &lines {
        if let Some(start) = line.spec.as_ref().and_then(|s| s.start()) {
            let value = |(path, text)| FoundValue { line: line.id.clone(), path, text };
            out.found.extend(start.found(&display).into_iter().map(value));
            out.family = Family { outlines: start.family().to_vec(), sides: start.sides(&line.id) };
            out.lettered = !out.family.sides.is_empty();
        }
    }
    let recipe = carry_out(&mut reader.tell, &lines, &stock)?;
    finish(
        out,
        shop,
        piece,
        &BuiltPiece { lines: &lines, recipe: &recipe, stock: &stock, t_working, bevels: &[] },
        how,
    );
    Some(())
}

/// Every line that is on and has a name of its own, read. One that cannot be read is told; it makes nothing.
fn read_lines(reader: &mut Reader, piece: &Piece, stock: &SheetStock) -> Option<Vec<LineSpec>> {
    if piece.lines.len() > MOST_LINES {
        reader.refuse_at(
            "/lines",
            format!("the recipe has {} lines; {MOST_LINES} is the most", piece.lines.len()),
            "use repeat and mirror, or split the piece",
        );
        return None;
    }
    let told = lines::carried_out(reader, &piece.lines).into_iter().map(|(index, line)| {
        ground::halt::point();
        reader.enter(&line.id);
        let spec = line.say.spoken().read(reader, stock);
        LineSpec { index, id: line.id.clone(), role: line.say.verb().role, spec }
    });
    Some(told.collect())
}

/// Where the piece tells the length that a panel's tip stands at.
fn tip(piece: &Piece, zone: &zones::Zone) -> Option<String> {
    if !zone.is_panel() {
        return None;
    }
    let told = |l: &&Line| zone.line == l.id && reference::within(&zone.name, &l.id).is_some();
    let i = piece.lines.iter().position(|l| told(&l))?;
    Some(format!("/lines/{i}/say{}", piece.lines[i].say.spoken().tip(&zone.name)?))
}

pub fn empty(piece: &Piece, display: Display) -> PieceResult {
    PieceResult {
        id: piece.id.clone(),
        mark: piece.mark.clone(),
        name: piece.name.clone(),
        quantity: 0,
        material: String::new(),
        material_id: piece.material.clone(),
        pads: Vec::new(),
        thickness: 0.0,
        thickness_text: String::new(),
        radius: 0.0,
        display,
        made: false,
        zones: Vec::new(),
        outside: Vec::new(),
        carries: Vec::new(),
        tips: Vec::new(),
        flat: Flat::default(),
        tags: Vec::new(),
        features: Vec::new(),
        corners: Vec::new(),
        mesh: OnceLock::new(),
        blank: OnceLock::new(),
        bend_rows: Vec::new(),
        plan: Default::default(),
        lettered: false,
        found: Vec::new(),
        family: Default::default(),
        figures: Vec::new(),
        findings: Vec::new(),
        faults: Vec::new(),
    }
}

/// The smallest inside radius that a material allows; the thickness where nothing is known.
pub fn smallest_radius(material: &Material, t: f64) -> f64 {
    limits::smallest_radius(material, t).map_or(t, |l| l.value)
}

/// The piece's usual inside radius; where none is told, the smallest its material allows.
fn radius(reader: &mut Reader, piece: &Piece, material: &Material, t: f64) -> f64 {
    let smallest = smallest_radius(material, t);
    if piece.radius.trim().is_empty() {
        return smallest;
    }
    reader.length("/radius", &piece.radius, Range::ZeroUp).unwrap_or(smallest)
}

/// A piece worked out, before it is looked at.
pub struct BuiltPiece<'a> {
    pub lines: &'a [LineSpec],
    pub recipe: &'a Recipe,
    pub stock: &'a SheetStock<'a>,
    pub t_working: Option<Working>,
    /// Edges ground slanting, in the flat as it is laid.
    pub bevels: &'a [BevelMark],
}

/// Cuts of one line that make a row or a field of it.
const ROW: usize = 12;

/// Lines whose cuts light views leave out.
fn rows_of(features: &[Feature]) -> HashSet<usize> {
    let mut count: HashMap<usize, usize> = HashMap::new();
    features.iter().for_each(|f| *count.entry(f.line).or_default() += 1);
    count.into_iter().filter(|c| c.1 >= ROW).map(|c| c.0).collect()
}

pub fn finish(out: &mut PieceResult, shop: &SheetShop, piece: &Piece, from: &BuiltPiece, how: &mut Search) {
    let BuiltPiece { lines, recipe, stock, .. } = *from;
    let made = &PieceContext {
        shop,
        piece,
        lines,
        material: stock.material,
        t: stock.t,
        t_working: from.t_working.clone(),
        blank: &recipe.blank,
        features: &recipe.features,
        outcome: &recipe.outcome,
        display: out.display,
        tags: &recipe.tags,
        overlap: recipe.overlap,
        kept: &recipe.kept,
        outline: OnceCell::new(),
    };
    let outcome = made.outcome;
    out.made = true;
    out.zones = made.blank.zones.clone();
    let carries = |z: &zones::Zone| (made.blank.zones.len() > 1 && z.is_panel()) || made.blank.is_shell(z);
    out.carries = out.zones.iter().map(carries).collect();
    out.tips = out.zones.iter().map(|z| tip(piece, z)).collect();
    out.outside = (0..out.zones.len()).map(|k| outside_box(made.blank, k)).collect();
    out.tags = made.tags.to_vec();
    let id = |f: &Feature| made.line_name(f).unwrap_or_default().to_string();
    let rows = if shop.light { rows_of(made.features) } else { HashSet::new() };
    let hidden = |f: &Feature| f.hidden_in_views || rows.contains(&f.line);
    out.features = made
        .features
        .iter()
        .map(|f| FeatureName { name: f.name.clone(), line: id(f), hidden_in_views: hidden(f) })
        .collect();
    out.corners = corners::names(&outcome.outer, made.blank, made.tags)
        .into_iter()
        .map(|c| CornerName { at: outcome.outer.vertices[c.vertex].p.to_array(), name: c.name })
        .collect();
    let bends = annotations::bend_marks(made);
    out.flat = Flat {
        outer: outcome.outer.clone(),
        holes: outcome.holes.clone(),
        dropped: outcome.dropped.clone(),
        dimensions: annotations::dimensions(made, &bends),
        marks: annotations::hole_marks(made),
        pressed: annotations::pressed_marks(made),
        bores: annotations::bore_marks(made),
        bends,
        bevels: from.bevels.to_vec(),
        guides: Vec::new(),
        kept: annotations::slanting_sizes(made),
    };
    out.plan = brake::plan(made, &shop.brake, how);
    out.figures = figures::figures(made, &out.flat, &out.zones);
    out.bend_rows = bend_rows::rows(made, &out.flat.bends, &out.plan, stock, out.value("mass"));
    out.findings = findings::findings(made, out);
    let words: Vec<String> = out.findings.iter().map(|f| in_words(out, &f.message)).collect();
    out.findings.iter_mut().zip(words).for_each(|(f, w)| f.message = w);
}
