//! A section of the frame as a card of the shop book: its shape, and each figure worked out beside what is
//! published.

use ground::geom::COINCIDENT;
use serde::Serialize;

use super::{FrameResult, Profile};
use ground::geom::Contour;
use ground::quantity::{Display, LengthUnit, trim_number};
use shop::section::{Section, Shape, series, two_walls};

/// One figure of a section.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SectionFigure {
    pub label: String,
    /// `cm²`, `lb/ft`.
    pub unit: String,
    pub worked: String,
    /// Empty where the standard's tables give none here.
    pub published: String,
    /// How far apart the two are: `+0.2 %`.
    pub apart: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SectionCard {
    pub section: String,
    /// `Hollow section cold-formed`; `by size` or `the shop's own`.
    pub series: String,
    pub source: String,
    /// Members of it in the frame.
    pub members: usize,
    /// Across and up, mm.
    pub size: [f64; 2],
    /// Across and up as told.
    pub told: [String; 2],
    /// Outline, then bores: x, y in turn, mm from the middle of the box, y up.
    pub loops: Vec<Vec<f64>>,
    /// From the middle of the box, mm.
    pub centroid: [f64; 2],
    pub figures: Vec<SectionFigure>,
    /// What the published figures rest on, where that is not the true shape.
    pub note: String,
}

/// Sections in the order they were told, those that members are of.
pub fn section_cards(r: &FrameResult) -> Vec<SectionCard> {
    let mut out: Vec<SectionCard> = Vec::new();
    for (i, p) in r.profiles.iter().enumerate() {
        let of: Vec<usize> = (0..r.members.len()).filter(|&k| r.members[k].profile == i).collect();
        let Some(&first) = of.first() else { continue };
        match out.iter_mut().find(|c| c.section == p.section.designation) {
            Some(card) => card.members += of.len(),
            None => out.push(card(p, of.len(), r.members[first].material.density, &r.display)),
        }
    }
    out
}

fn card(p: &Profile, members: usize, density: f64, d: &Display) -> SectionCard {
    let (s, q) = (&p.section, &p.properties);
    let size = s.shape.size();
    let flat = |c: &Contour| c.flatten(size.max_element() * 1e-3).iter().flat_map(|v| [v.x, v.y]).collect();
    let round = |v: f64| (v * 1e4).round() / 1e4;
    let steel = (density - 7850.0).abs() < 60.0;
    let inch = d.length == LengthUnit::In;
    // What one of the job's units of each kind is in mm and kg.
    let (area, run, fourth, unit) =
        if inch { (645.16, 304.8, 25.4f64.powi(4), 25.4) } else { (100.0, 1000.0, 1e4, 1.0) };
    let pound = if inch { 0.453_592_37 } else { 1.0 };
    let say = |mm: &'static str, inches: &'static str| if inch { inches } else { mm };
    let design = design_shape(s).map(|shape| shape.properties());
    // Published areas and second moments of the AISC tables are those of the design wall: held to the same.
    let held = design.as_ref().unwrap_or(q);
    let figure = |label: &str, unit: &str, worked: f64, published: Option<f64>| SectionFigure {
        label: label.into(),
        unit: unit.into(),
        worked: four(worked),
        published: published.map(four).unwrap_or_default(),
        apart: published.map(|p| apart(worked, p)).unwrap_or_default(),
    };
    let mut figures = vec![
        figure("area", say("cm²", "in²"), held.area / area, s.area.map(|a| a / area)),
        figure(
            "mass",
            say("kg/m", "lb/ft"),
            q.area * run * density * 1e-9 / pound,
            s.mass.filter(|_| steel).map(|m| m * run / 1000.0 / pound),
        ),
        figure("surface", say("m²/m", "ft²/ft"), q.perimeter / if inch { 304.8 } else { 1000.0 }, None),
        figure(
            "second moment, up and down",
            say("cm⁴", "in⁴"),
            held.i_y / fourth,
            s.inertia.map(|i| i[0] / fourth),
        ),
        figure(
            "second moment, sideways",
            say("cm⁴", "in⁴"),
            held.i_z / fourth,
            s.inertia.map(|i| i[1] / fourth),
        ),
    ];
    if q.centroid.length() > COINCIDENT {
        figures.push(figure(
            "centroid from the left",
            say("mm", "in"),
            (q.centroid.x + size.x / 2.0) / unit,
            None,
        ));
        figures.push(figure(
            "centroid from the bottom",
            say("mm", "in"),
            (q.centroid.y + size.y / 2.0) / unit,
            None,
        ));
    }
    SectionCard {
        section: s.designation.clone(),
        series: s
            .series
            .and_then(|i| series().get(i))
            .map_or_else(|| "not in the catalogue".to_string(), |x| x.name.clone()),
        source: s.source.clone(),
        members,
        size: size.to_array().map(round),
        told: size.to_array().map(|v| d.brief(v)),
        loops: std::iter::once(&p.outer).chain(&p.holes).map(flat).collect(),
        centroid: q.centroid.to_array().map(round),
        figures,
        note: match s.design_wall {
            Some(t) => format!(
                "area and second moments are those of the design wall, {}; mass, cuts and pictures those \
                 of the nominal one",
                d.length_unit(t)
            ),
            None => String::new(),
        },
    }
}

/// The shape with the wall that published areas rest on.
fn design_shape(s: &Section) -> Option<Shape> {
    match (&s.shape, s.design_wall?) {
        (Shape::Box { h, b, .. }, t) => Some(two_walls(*h, *b, t)),
        (Shape::Tube { d, .. }, t) => Some(Shape::Tube { d: *d, t }),
        _ => None,
    }
}

/// Four significant digits.
fn four(v: f64) -> String {
    let before = v.abs().max(1e-9).log10().floor() as i32;
    let places = (3 - before).clamp(0, 6) as usize;
    trim_number(v, places)
}

fn apart(worked: f64, published: f64) -> String {
    let by = (worked / published - 1.0) * 100.0;
    if by.abs() < 0.05 { "0.0 %".into() } else { format!("{by:+.1} %") }
}
