//! A flat that comes from geometry instead of words: a plate of a frame, a skin laid flat. Nothing of it is
//! written down and read again.

use std::sync::Arc;

use glam::DVec2;
use grammar::Role;
use ground::geom::{Contour, Vertex};
use ground::quantity::Display;
use ground::reader::{Reader, Tell};
use shop::{Material, SheetShop, THICKEST, TOO_THICK};

use crate::brake::{Effort, Search};
use crate::choices::{EdgeOf, From, To};
use crate::edge_bevel::{BevelMark, CutBack, EdgeBevel};
use crate::edge_fold::{EdgeFold, HungFold, HungHoles};
use crate::evaluate::{BuiltPiece, empty, finish, smallest_radius};
use crate::flat::bend_allowance::Rule;
use crate::flat::blank::crossing_of;
use crate::flat::place::{OffsetSpec, PlaceSpec};
use crate::flat::shape::ShapeSpec;
use crate::flat::spec::Spec;
use crate::flat::stock::SheetStock;
use crate::piece::Piece;
use crate::recipe::{LineSpec, carry_out};
use crate::result::{Guide, PieceResult};
use crate::verbs::bore::BoreSpec;
use crate::verbs::drill::DrillSpec;
use crate::verbs::{OutlineSpec, PunchSpec};

/// A flat, lengths in mm.
pub struct PlateSpec {
    pub id: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: Arc<Material>,
    pub thickness: f64,
    pub display: Display,
    pub outer: Contour,
    pub holes: Vec<Contour>,
    /// Drilled holes, in the flat of the outline.
    pub bores: Vec<(DVec2, BoreSpec)>,
    /// Flanges on its edges.
    pub folds: Vec<EdgeFold>,
    /// Edges ground slanting, from the face that the flat shows.
    pub bevels: Vec<EdgeBevel>,
    /// Welded to others along its sides: hands find no corner of it.
    pub is_joined: bool,
}

/// The plate with its lower left corner at the origin, looked at like any piece.
pub fn evaluate_plate(shop: &SheetShop, plate: &PlateSpec) -> PieceResult {
    let piece = Piece {
        id: plate.id.clone(),
        mark: plate.mark.clone(),
        name: plate.name.clone(),
        quantity: plate.quantity.to_string(),
        material: plate.material.id.clone(),
        thickness: plate.display.typed(plate.thickness),
        display: Some(plate.display),
        ..Piece::default()
    };
    let mut out = empty(&piece, plate.display);
    let mut tell = Tell::new(plate.display);
    make(&mut out, &mut tell, shop, plate, &piece);
    out.findings.retain(|f| !plate.is_joined || f.check != "sharp_corners");
    out.faults = tell.settled(|_, _| None);
    out
}

fn make(
    out: &mut PieceResult,
    tell: &mut Tell,
    shop: &SheetShop,
    plate: &PlateSpec,
    piece: &Piece,
) -> Option<()> {
    let (material, t) = (&*plate.material, plate.thickness);
    (out.quantity, out.material) = (plate.quantity, material.name.clone());
    if t <= 0.0 || t > THICKEST {
        let message = if t > THICKEST { TOO_THICK } else { "this length must be above zero" };
        tell.refuse_at("/thickness", message, "check the unit");
        return None;
    }
    let r = smallest_radius(material, t);
    (out.thickness, out.thickness_text, out.radius) = (t, plate.display.thickness(t), r);
    for contour in std::iter::once(&plate.outer).chain(&plate.holes) {
        if let Some((message, mend)) = crossing_of(contour, &plate.display) {
            tell.refuse_at("/lines", message, mend);
            return None;
        }
    }
    let rule = Rule::read(&Reader::new(&shop.figures, plate.display), "/bend_rule", &shop.bend_rule);
    let stock = SheetStock { material, t, r, rule: &rule, book: &shop.bends, shelf: &shop.materials };
    let lines = lines(plate, r);
    let recipe = carry_out(tell, &lines, &stock)?;
    let low = plate.outer.bounds().min;
    let outer = &recipe.outcome.outer;
    let mark = |b: &EdgeBevel| b.laid(|p| p - low, false).mark(outer, t);
    let Some(bevels) = plate.bevels.iter().map(mark).collect::<Option<Vec<BevelMark>>>() else {
        let message = "nothing is left of a bevelled edge between its flanges";
        tell.refuse_at("/lines", message, "write smaller radii, or leave a flange out");
        return None;
    };
    if CutBack::new(outer, &bevels).is_some_and(|c| c.takes_all()) {
        tell.refuse_at(
            "/lines",
            "its bevels take more than the whole of an edge",
            "write a thinner plate, or corners edge to edge",
        );
        return None;
    }
    let made = BuiltPiece { lines: &lines, recipe: &recipe, stock: &stock, t_working: None, bevels: &bevels };
    finish(out, shop, piece, &made, &mut Search { effort: Effort::SHORT, on: &mut |_| true });
    // The grinder's line, and the angle that it is for.
    let lines = CutBack::new(&out.flat.outer, &out.flat.bevels).map_or_else(Vec::new, |c| c.lines());
    let guides = lines.into_iter().map(|([a, b], angle)| Guide {
        from: a.to_array(),
        to: b.to_array(),
        text: format!("bevel {}", plate.display.angle(angle)),
    });
    out.flat.guides = guides.collect();
    Some(())
}

/// The outline, its flanges, and each hole told from its west and south.
fn lines(plate: &PlateSpec, radius: f64) -> Vec<LineSpec> {
    let low = plate.outer.bounds().min;
    let outer =
        Contour { vertices: plate.outer.vertices.iter().map(|v| Vertex { p: v.p - low, ..*v }).collect() };
    let start = Spec::Start(Box::new(OutlineSpec { outer }));
    let mut out: Vec<LineSpec> = Vec::new();
    let mut line = |id: String, role: Role, spec: Spec| {
        out.push(LineSpec { index: out.len(), id, role, spec: Some(spec) });
    };
    line("start-1".into(), Role::Start, start);
    for fold in &plate.folds {
        let id = fold.told_by.clone();
        let fold = fold.laid(|p| p - low, false);
        let holes = HungHoles { fold: fold.clone(), radius };
        line(id, Role::Bend, Spec::Panels(Box::new(HungFold { fold, radius })));
        if !holes.fold.holes.is_empty() {
            line(holes.fold.holes_id(), Role::Cut, Spec::Cuts(Box::new(holes)));
        }
    }
    let from = |from: From, distance: f64| OffsetSpec {
        from,
        distance,
        to: To::Centre,
        edge: EdgeOf::Panel,
        told: true,
    };
    let place = |at: DVec2| PlaceSpec {
        beside: None,
        about: None,
        at: "/say/place",
        on: "flat".into(),
        x: from(From::West, at.x - low.x),
        y: from(From::South, at.y - low.y),
        turn: 0.0,
    };
    for (i, hole) in plate.holes.iter().enumerate() {
        let (centre, shape) = match hole.as_circle() {
            Some((centre, radius)) => (centre, ShapeSpec::Round { diameter: radius * 2.0 }),
            None => (hole.bounds().centre(), ShapeSpec::outline(&hole.clone().outward())),
        };
        let spec = Spec::Cuts(Box::new(PunchSpec { shape, place: place(centre) }));
        line(format!("punch-{}", i + 1), Role::Cut, spec);
    }
    for (i, (at, hole)) in plate.bores.iter().enumerate() {
        let spec = Spec::Cuts(Box::new(DrillSpec { hole: hole.clone(), place: place(*at) }));
        line(format!("drill-{}", i + 1), Role::Cut, spec);
    }
    out
}
