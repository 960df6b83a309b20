//! The cut list of a frame: equal bodies in one row, ends as the saw is set, totals by section.

use serde::Serialize;

use super::bent;
use super::ends::{self, Cut, Lie, Look, Plane};
use super::hole_text;
use super::skin::has_wall;
use super::weld_list::{WeldRow, weld_rows};
use super::{FrameResult, Member, MemberFacts, Profile};
use crate::build::plates::Cutting;
use crate::document::Frame;
use ground::quantity::{Display, LengthUnit, Printed, summed};
use layout::bars::Part;
use shop::settings::{SawFacts, small};

/// One end as the saw is set.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct CutCell {
    /// `square`, `45°`, `30° × 12°`, `cope C1`.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub text: Printed,
    /// Off square before rounding to the saw's step, two decimals.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub exact: Printed,
    /// Between cut and axis.
    pub from_axis: String,
    /// What rounding leaves open at the far side; empty where it leaves nothing.
    pub gap: String,
    /// Swings further than the saw does.
    pub beyond: bool,
    /// Number of its wrap-round template.
    pub template: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct BarRow {
    /// A member of the row: what names and own cells are kept by.
    pub key: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    /// Mirror image of another row.
    pub opposite: bool,
    pub section: String,
    pub material: String,
    /// From tip to tip, what it is cut from; developed along the middle where it is bent.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub length: Printed,
    /// The longest line along it, where that is shorter: ends that slant the same way, or that have two cuts.
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub edge: Printed,
    /// For the bender: `200.0 · R150.0 90° · 350.0`; empty for a straight bar.
    pub bends: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub centre: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub short: Printed,
    /// What rounding the length to the saw's step leaves; empty for nothing worth telling.
    pub length_gap: String,
    pub cuts: [CutCell; 2],
    pub lie: Lie,
    /// `turned 90°`; empty otherwise.
    pub turned: String,
    pub look: Look,
    /// Whether its wall can be laid flat: a straight tube.
    pub skin: bool,
    /// Round and slotted ones; notches not counted.
    pub holes: usize,
    /// `3 holes, 1 notch`; empty for none.
    pub work: String,
    /// How they are drilled and notched: `top, both walls: 4 × Ø9 at 50.0 · 150.0 …` from the start's long
    /// point.
    pub drilled: Vec<String>,
    /// Where holes lie as parts of the way between the outermost points, for pictures.
    #[serde(skip)]
    pub stations: Vec<f64>,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub unit_mass: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub total_mass: Printed,
    /// Outside to be painted, each.
    pub surface: String,
    pub cells: Vec<String>,
    pub members: Vec<String>,
    /// The section as it is seen from the start, looking along the bar: x to the left, y up; and which ways
    /// its holes look out.
    #[serde(skip)]
    pub seen: Vec<ground::geom::Contour>,
    #[serde(skip)]
    pub drilled_to: Vec<glam::DVec2>,
    /// Where its ends stand back behind their tips, where a slant does not say it: height from 0 to 1, mm
    /// back.
    #[serde(skip)]
    pub ends_seen: Option<[Vec<glam::DVec2>; 2]>,
    /// The middle line of a bent bar, and whether it is bent out of its first plane.
    #[serde(skip)]
    pub way: (Vec<glam::DVec2>, bool),
    /// As it lies on a bar.
    #[serde(skip)]
    pub part: Part,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct PlateRow {
    pub key: String,
    /// Id by which its papers are asked for.
    pub piece: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub thickness: Printed,
    /// What it is cut from: `plate 8`, `tube 63.5 × 7.3`.
    pub stock: String,
    pub size: String,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub unit_mass: Printed,
    #[cfg_attr(feature = "utoipa", schema(value_type = String))]
    pub total_mass: Printed,
    pub cells: Vec<String>,
    pub members: Vec<String>,
    pub stops: usize,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct SectionTotal {
    pub section: String,
    pub pieces: usize,
    /// Sum of lengths from tip to tip, m or ft.
    pub length: String,
    pub mass: String,
    /// Worked out and published mass a metre (or foot), and where from.
    pub worked: String,
    pub published: String,
    pub source: String,
}

/// What is welded together first.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct AssemblyRow {
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    /// `2 × F-1/1`.
    pub parts: Vec<String>,
    pub unit_mass: String,
}

#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FrameList {
    pub frame: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub columns: Vec<String>,
    pub bars: Vec<BarRow>,
    pub plates: Vec<PlateRow>,
    pub assemblies: Vec<AssemblyRow>,
    pub sections: Vec<SectionTotal>,
    pub welds: Vec<WeldRow>,
    /// The step that lengths are told in; empty for none.
    pub steps: String,
    pub weld_length: String,
    pub weld_metal: String,
    pub mass: String,
    pub stops: usize,
}

fn said<'a>(frame: &'a Frame, keys: &[&str]) -> Option<&'a crate::document::RowSaid> {
    frame.rows.iter().find(|r| keys.contains(&r.piece.as_str()))
}

pub fn mark_of(frame: &Frame, key: &str) -> Option<String> {
    said(frame, &[key]).map(|r| r.mark.clone()).filter(|m| !m.trim().is_empty())
}

pub fn name_of(frame: &Frame, key: &str) -> Option<String> {
    said(frame, &[key]).map(|r| r.name.clone()).filter(|m| !m.trim().is_empty())
}

/// Plates with the same key are one body.
pub fn plate_key(c: &Cutting) -> String {
    let r = |v: f64| (v * 100.0).round() as i64;
    let loops = std::iter::once(&c.outer).chain(&c.holes);
    let told: Vec<String> = loops
        .map(|l| {
            l.vertices
                .iter()
                .map(|v| format!("{},{},{}", r(v.p.x), r(v.p.y), r(v.bulge * 100.0)))
                .collect::<Vec<_>>()
                .join(" ")
        })
        .collect();
    format!("{} {}", r(c.thickness), told.join(" / "))
}

fn plane_cell(p: &Plane, saw: &SawFacts, display: &Display) -> CutCell {
    let (set, tilt) = (saw.angle(p.angle), saw.angle(p.bevel));
    let off = (p.angle.tan() - set.tan()).abs() * p.depth;
    // With a tilt it is two angles, and no one number.
    let both = |angle: f64, bevel: f64| {
        let angle = Printed::degrees(angle, 2);
        if p.bevel > 1e-5 {
            Printed::words(format!("{angle} × {}", Printed::degrees(bevel, 2)))
        } else {
            angle
        }
    };
    CutCell {
        text: both(set, tilt),
        exact: both(p.angle, p.bevel),
        from_axis: Printed::degrees(std::f64::consts::FRAC_PI_2 - p.angle, 2).to_string(),
        gap: if off > 0.05 { small(display, off) } else { String::new() },
        beyond: p.angle > saw.most + 1e-9 || p.bevel > 45f64.to_radians() + 1e-9,
        template: String::new(),
    }
}

fn cell(cut: &Cut, saw: &SawFacts, display: &Display, templates: &mut usize) -> CutCell {
    let plain = |text: &str| CutCell {
        text: Printed::words(text),
        exact: Printed::default(),
        from_axis: String::new(),
        ..CutCell::default()
    };
    match cut {
        Cut::Square => {
            CutCell { from_axis: "90°".into(), exact: Printed::degrees(0.0, 2), ..plain("square") }
        }
        Cut::None => plain("none"),
        Cut::Plane(p) => plane_cell(p, saw, display),
        Cut::Planes(planes) => {
            let cells: Vec<CutCell> = planes.iter().map(|p| plane_cell(p, saw, display)).collect();
            let join = |f: fn(&CutCell) -> &str| {
                cells.iter().map(f).filter(|t| !t.is_empty()).collect::<Vec<_>>().join(" + ")
            };
            CutCell {
                text: Printed::words(join(|c| &c.text)),
                exact: Printed::words(join(|c| &c.exact)),
                from_axis: join(|c| &c.from_axis),
                gap: join(|c| &c.gap),
                beyond: cells.iter().any(|c| c.beyond),
                template: String::new(),
            }
        }
        Cut::Cope => {
            *templates += 1;
            let template = format!("C{templates}");
            CutCell { text: Printed::words(format!("cope {template}")), template, ..CutCell::default() }
        }
    }
}

/// Metres or feet, two decimals.
pub fn run(display: &Display, mm: f64) -> String {
    match display.length {
        LengthUnit::Mm => format!("{:.2} m", mm / 1000.0),
        LengthUnit::In => format!("{:.2} ft", mm / 304.8),
    }
}

/// A mass a metre, or a foot.
fn per_run(display: &Display, kg_m: f64) -> String {
    match display.length {
        LengthUnit::Mm => format!("{kg_m:.2} kg/m"),
        LengthUnit::In => format!("{:.2} lb/ft", kg_m / 0.453_592_37 * 0.3048),
    }
}

impl FrameList {
    /// Masses of its rows as they are printed.
    pub fn masses(&self) -> impl Iterator<Item = &Printed> {
        self.bars.iter().map(|b| &b.total_mass).chain(self.plates.iter().map(|p| &p.total_mass))
    }
}

/// The list of one frame, in the job's unit; quantities of the frame counted.
pub fn frame_list(frame: &Frame, r: &FrameResult, display: &Display, saw: &SawFacts) -> FrameList {
    let bars = bar_rows(frame, r, display, saw);
    let plates = r.plates.iter().map(|p| plate_row(frame, p, r.quantity, display)).collect::<Vec<_>>();
    let assemblies = assembly_rows(r, &bars, &plates, display);
    let weld: f64 = r.welds.iter().map(|w| w.length * w.count as f64).sum();
    let mut list = FrameList {
        frame: r.id.clone(),
        mark: r.mark.clone(),
        name: r.name.clone(),
        quantity: r.quantity,
        columns: frame.columns.clone(),
        sections: section_totals(r, display),
        welds: weld_rows(r, display),
        steps: saw.steps_said(display),
        weld_length: run(display, weld * r.quantity as f64),
        weld_metal: display.mass(r.weld_mass() * r.quantity as f64),
        mass: String::new(),
        stops: r.stops(),
        bars,
        plates,
        assemblies,
    };
    // Welds are told apart from it.
    list.mass = format!("{} {}", summed(list.masses()), display.mass_unit());
    list
}

fn cells_of(frame: &Frame, keys: &[&str]) -> Vec<String> {
    let told = said(frame, keys).map(|r| r.cells.clone()).unwrap_or_default();
    (0..frame.columns.len()).map(|i| told.get(i).cloned().unwrap_or_default()).collect()
}

fn bar_rows(frame: &Frame, r: &FrameResult, display: &Display, saw: &SawFacts) -> Vec<BarRow> {
    let mut out = Vec::new();
    let mut templates = 0;
    for g in &r.groups {
        ground::halt::point();
        for opposite in [false, true] {
            let of: Vec<usize> = g.fits.iter().filter(|f| f.mirrored == opposite).map(|f| f.member).collect();
            let Some(&first) = of.first() else { continue };
            let (m, f): (_, &MemberFacts) = (&r.members[first], &r.facts[first]);
            let p = &r.profiles[m.profile];
            let keys: Vec<&str> = of.iter().map(|&i| r.members[i].name.as_str()).collect();
            let said = said(frame, &keys);
            let text = |get: fn(&crate::document::RowSaid) -> &String| {
                said.map(|s| get(s).trim().to_string()).filter(|t| !t.is_empty())
            };
            let cuts = [0, 1].map(|k| cell(&f.cuts[k], saw, display, &mut templates));
            let (lie, turn) = ends::lie(&f.cuts[0], &f.cuts[1]);
            let set = saw.length(f.lengths.overall);
            let (drilled, stations) = hole_text::drilled(m, p, display);
            let quantity = of.len() * r.quantity;
            let name = text(|s| &s.name).unwrap_or_else(|| {
                if opposite { format!("{} (opposite hand)", m.call) } else { m.call.clone() }
            });
            out.push(BarRow {
                key: said.map_or_else(|| m.name.clone(), |s| s.piece.clone()),
                mark: text(|s| &s.mark).unwrap_or_else(|| format!("{}/{}", frame.mark, out.len() + 1)),
                name,
                quantity,
                opposite,
                section: p.section.designation.clone(),
                material: m.material.name.clone(),
                length: saw.told(display).length_number(set),
                edge: if f.lengths.overall - f.lengths.long > 0.05 {
                    saw.told(display).length_number(saw.length(f.lengths.long))
                } else {
                    Printed::default()
                },
                bends: bent::told(m, p.section.shape.is_round(), display),
                // In the same steps: the shorter never reads longer.
                centre: saw.told(display).length_number(saw.length(f.lengths.centre)),
                short: saw.told(display).length_number(saw.length(f.lengths.short)),
                length_gap: if (set - f.lengths.overall).abs() > 0.05 {
                    small(display, (set - f.lengths.overall).abs())
                } else {
                    String::new()
                },
                cuts,
                lie,
                turned: if lie == Lie::Turned {
                    format!("turned {}", display.angle(turn.abs()))
                } else {
                    String::new()
                },
                look: ends::look(m, p, [&f.cuts[0], &f.cuts[1]]),
                skin: m.is_straight() && has_wall(p),
                holes: m.holes.iter().filter(|h| h.notch.is_none()).count(),
                work: hole_text::count(m),
                drilled,
                stations,
                unit_mass: display.mass_number(f.mass),
                total_mass: display.mass_number(f.mass * quantity as f64),
                surface: display.area(p.properties.perimeter * f.lengths.centre),
                cells: cells_of(frame, &keys),
                members: keys.iter().map(|k| k.to_string()).collect(),
                seen: std::iter::once(&p.outer).chain(&p.holes).cloned().collect(),
                drilled_to: hole_text::ways(m),
                ends_seen: (m.is_straight()
                    && f.cuts.iter().any(|c| matches!(c, Cut::Planes(_) | Cut::Cope)))
                .then(|| [0, 1].map(|k| ends::silhouette(m, p, ends::up([&f.cuts[0], &f.cuts[1]]), k))),
                way: if m.is_straight() { Default::default() } else { bent::drawn(m) },
                part: part(m, p, f),
            });
        }
    }
    out
}

/// A piece as the saw sees it from the side. Plain cuts in one plane can share a cut with their neighbour;
/// others keep their points to themselves.
fn part(m: &Member, p: &Profile, f: &MemberFacts) -> Part {
    let plain = f.cuts.iter().all(|c| match c {
        Cut::Square | Cut::None => true,
        Cut::Plane(q) => q.bevel == 0.0,
        _ => false,
    });
    let (lie, _) = ends::lie(&f.cuts[0], &f.cuts[1]);
    if !plain || lie == Lie::Turned {
        return Part { length: f.lengths.overall, start: 0.0, end: 0.0, depth: 1.0, turns: true };
    }
    let look = ends::look(m, p, [&f.cuts[0], &f.cuts[1]]);
    // Tubes, bars and beams lie the same when they are turned over or about.
    Part {
        length: f.lengths.centre,
        start: look.start,
        end: look.end,
        depth: look.depth.max(1.0),
        turns: p.symmetries.len() >= 4,
    }
}

fn plate_row(frame: &Frame, p: &super::Plate, frames: usize, display: &Display) -> PlateRow {
    let quantity = p.places.len() * frames;
    let unit = p.piece.value("mass");
    let size = p.piece.flat.outer.bounds().size();
    let keys: Vec<&str> = p.places.iter().map(|q| q.name.as_str()).collect();
    PlateRow {
        key: p.name.clone(),
        piece: p.piece.id.clone(),
        mark: p.piece.mark.clone(),
        name: p.piece.name.clone(),
        quantity,
        material: p.piece.material.clone(),
        thickness: display.thickness_number(p.piece.thickness),
        stock: match p.tube {
            Some([outside, wall]) => format!("tube {} × {}", display.brief(outside), display.brief(wall)),
            None => format!("plate {}", display.thickness(p.piece.thickness)),
        },
        // A ring is told by how much of its tube it takes.
        size: match p.tube {
            Some(_) => display.length(p.piece.thickness),
            None => {
                format!("{} × {}", display.length(size.max_element()), display.length(size.min_element()))
            }
        },
        unit_mass: display.mass_number(unit),
        total_mass: display.mass_number(unit * quantity as f64),
        cells: cells_of(frame, &keys),
        members: keys.iter().map(|k| k.to_string()).collect(),
        stops: p.piece.stops(),
    }
}

fn assembly_rows(
    r: &FrameResult,
    bars: &[BarRow],
    plates: &[PlateRow],
    display: &Display,
) -> Vec<AssemblyRow> {
    let mut out = Vec::new();
    for (i, a) in r.assemblies.iter().enumerate() {
        // One copy of it, the first.
        let mut parts = Vec::new();
        let mut mass = 0.0;
        for row in bars {
            ground::halt::point();
            let of: Vec<usize> = r
                .members
                .iter()
                .enumerate()
                .filter(|(_, m)| m.assembly == Some((i, 0)) && row.members.contains(&m.name))
                .map(|(k, _)| k)
                .collect();
            mass += of.iter().map(|&k| r.facts[k].mass).sum::<f64>();
            if !of.is_empty() {
                parts.push(format!("{} × {}", of.len(), row.mark));
            }
        }
        for (row, p) in plates.iter().zip(&r.plates) {
            let n = p.places.iter().filter(|q| q.assembly == Some((i, 0))).count();
            mass += n as f64 * p.piece.value("mass");
            if n > 0 {
                parts.push(format!("{n} × {}", row.mark));
            }
        }
        out.push(AssemblyRow {
            mark: a.mark.clone(),
            name: a.name.clone(),
            quantity: a.copies.max(1) * r.quantity,
            parts,
            unit_mass: display.mass(mass),
        });
    }
    out
}

fn section_totals(r: &FrameResult, display: &Display) -> Vec<SectionTotal> {
    let mut out = Vec::new();
    for (i, p) in r.profiles.iter().enumerate() {
        let of: Vec<usize> = (0..r.members.len()).filter(|&k| r.members[k].profile == i).collect();
        let Some(&first) = of.first() else { continue };
        let density = r.members[first].material.density;
        out.push(SectionTotal {
            section: p.section.designation.clone(),
            pieces: of.len() * r.quantity,
            length: run(
                display,
                of.iter().map(|&k| r.facts[k].lengths.overall).sum::<f64>() * r.quantity as f64,
            ),
            mass: display.mass(of.iter().map(|&k| r.facts[k].mass).sum::<f64>() * r.quantity as f64),
            worked: per_run(display, p.properties.area * density * 1e-6),
            published: p.section.mass.map_or_else(String::new, |m| per_run(display, m)),
            source: p.section.source.clone(),
        });
    }
    out
}
