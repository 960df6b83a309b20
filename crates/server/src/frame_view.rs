//! A frame as the web receives it: bodies with the places where they stand, nodes, joints. Coordinates
//! rounded to 0.001 mm.

use glam::DVec3;
use serde::Serialize;
use steelk_core::frame::{CentrelineSegment, FrameResult, JointChoice, SectionCard, section_cards, standing};
use steelk_core::quantity::Display;
use steelk_core::result::{FigureResult, Finding, LineFault};
use utoipa::ToSchema;

#[derive(Serialize, ToSchema)]
pub struct NodeView {
    pub name: String,
    pub line: String,
    pub at: [f64; 3],
}

/// Where a body stands: columns of its axes, then its origin.
#[derive(Serialize, ToSchema)]
pub struct PlaceView {
    pub name: String,
    pub line: String,
    /// Column by column, twelve numbers.
    pub matrix: Vec<f64>,
}

#[derive(Serialize, ToSchema)]
pub struct BodyView {
    /// x, y, z in turn.
    pub points: Vec<f64>,
    pub triangles: Vec<u32>,
    /// From, to in turn.
    pub edges: Vec<u32>,
    pub places: Vec<PlaceView>,
    pub plate: bool,
}

/// A member's own line, and which row of the list it is in is said there.
#[derive(Serialize, ToSchema)]
pub struct MemberView {
    pub name: String,
    pub line: String,
    pub call: String,
    pub from: String,
    pub to: String,
    pub section: String,
    /// The skeleton: x, y, z in turn.
    pub way: Vec<f64>,
    pub centre: [f64; 3],
    pub length: String,
    pub mass: String,
}

/// A node where members meet, with what can be chosen there.
#[derive(Serialize, ToSchema)]
pub struct JointView {
    pub node: String,
    pub at: [f64; 3],
    /// The ways that it can be closed, the present one first.
    pub choices: Vec<JointChoice>,
}

#[derive(Serialize, ToSchema)]
pub struct FrameView {
    pub id: String,
    pub mark: String,
    pub made: bool,
    pub display: Display,
    pub nodes: Vec<NodeView>,
    pub members: Vec<MemberView>,
    pub joints: Vec<JointView>,
    pub bodies: Vec<BodyView>,
    /// Bare names of plates between openings.
    pub sides: Vec<String>,
    pub sections: Vec<SectionCard>,
    pub centre: [f64; 3],
    pub mass: String,
    pub figures: Vec<FigureResult>,
    pub findings: Vec<Finding>,
    pub faults: Vec<LineFault>,
}

fn r(v: f64) -> f64 {
    if v.is_finite() { (v * 1e3).round() / 1e3 } else { 0.0 }
}

fn at(p: DVec3) -> [f64; 3] {
    p.to_array().map(r)
}

pub fn frame_view(f: &FrameResult) -> FrameView {
    let d = &f.display;
    let bodies = standing(f, true).into_iter().map(|s| BodyView {
        points: s.body.points.iter().flat_map(|p| at(*p)).collect(),
        triangles: s.body.triangles.into_iter().flatten().collect(),
        edges: s.body.edges.into_iter().flatten().collect(),
        places: s
            .places
            .into_iter()
            .map(|p| PlaceView {
                name: p.name,
                line: p.line,
                matrix: p.at.to_cols_array().iter().map(|v| (v * 1e6).round() / 1e6).collect(),
            })
            .collect(),
        plate: s.is_plate,
    });
    let members = f.members.iter().zip(&f.facts).map(|(m, facts)| {
        let mut way: Vec<f64> = Vec::new();
        if m.is_straight() {
            way.extend([f.nodes[m.from].at, f.nodes[m.to].at].into_iter().flat_map(at));
        } else {
            for s in &m.way {
                let parts = if matches!(s, CentrelineSegment::Bend { .. }) { 12 } else { 1 };
                way.extend((0..=parts).flat_map(|k| at(s.at(f64::from(k) / f64::from(parts)).o)));
            }
        }
        MemberView {
            name: m.name.clone(),
            line: m.line.clone(),
            call: m.call.clone(),
            from: f.nodes[m.from].name.clone(),
            to: f.nodes[m.to].name.clone(),
            section: f.profiles[m.profile].section.designation.clone(),
            way,
            centre: at(facts.centre),
            length: d.length_unit(facts.lengths.overall),
            mass: d.mass(facts.mass),
        }
    });
    let joints = f.joints.iter().zip(&f.choices).map(|(j, choices)| JointView {
        node: f.nodes[j.node].name.clone(),
        at: at(f.nodes[j.node].at),
        choices: choices.clone(),
    });
    FrameView {
        sides: f.sides(),
        id: f.id.clone(),
        mark: f.mark.clone(),
        made: f.made,
        display: f.display,
        nodes: f
            .nodes
            .iter()
            .map(|n| NodeView { name: n.name.clone(), line: n.line.clone(), at: at(n.at) })
            .collect(),
        members: members.collect(),
        joints: joints.collect(),
        bodies: bodies.collect(),
        sections: section_cards(f),
        centre: at(f.centre()),
        mass: d.mass(f.mass()),
        figures: f.figures.clone(),
        findings: f.findings.clone(),
        faults: f.faults.clone(),
    }
}
