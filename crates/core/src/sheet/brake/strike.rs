//! What a half-bent piece would hit at the brake. Tools as convex sections, as long as the bend: a straight punch under its beam, a V die on its bed.

use glam::{DVec2, DVec3};

use crate::sheet::bends::BendFact;
use crate::sheet::clash::clash;
use crate::sheet::zones::{Zone, frames_by};

/// Something in the way of a tool.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Strike {
    /// Name of the panel that is in the way.
    pub panel: String,
    pub tool: &'static str,
}

impl Strike {
    pub fn said(&self) -> String {
        format!("{} strikes the {}", self.panel, self.tool)
    }
}

/// A convex section as half planes: inside where n·p ≤ d for all.
struct Section {
    tool: &'static str,
    planes: Vec<(DVec2, f64)>,
}

impl Section {
    fn polygon(tool: &'static str, corners: &[(f64, f64)]) -> Section {
        let p: Vec<DVec2> = corners.iter().map(|c| DVec2::new(c.0, c.1)).collect();
        let planes = (0..p.len())
            .map(|i| {
                let n = -(p[(i + 1) % p.len()] - p[i]).perp().normalize_or_zero();
                (n, n.dot(p[i]))
            })
            .collect();
        Section { tool, planes }
    }

    /// Whether a segment comes more than `deep` inside.
    fn meets(&self, a: DVec2, b: DVec2, deep: f64) -> bool {
        let (mut low, mut high) = (0.0f64, 1.0f64);
        for &(n, d) in &self.planes {
            let (fa, fb) = (n.dot(a) - d + deep, n.dot(b) - d + deep);
            if fa > 0.0 && fb > 0.0 {
                return false;
            }
            if fa > 0.0 {
                low = low.max(fa / (fa - fb));
            } else if fb > 0.0 {
                high = high.min(fa / (fa - fb));
            }
        }
        low < high
    }
}

/// Heights and half widths of the tools, mm (common practice for a straight punch in its holder and a single-V die).
const PUNCH: (f64, f64) = (160.0, 12.0);
const BEAM: (f64, f64) = (400.0, 40.0);
const DIE: f64 = 60.0;
const BED: (f64, f64) = (400.0, 60.0);
/// Nearer than this is a touch, not a strike.
const TOUCH: f64 = 0.5;

/// The tools round a bend at angle `phi`: tip of the punch at the origin, punch axis up.
fn tools(b: &BendFact, phi: f64, v: f64, t: f64) -> Vec<Section> {
    let lean = ((std::f64::consts::PI - b.angle) / 2.0 - 0.05).clamp(0.13, 0.74);
    let (height, half) = PUNCH;
    let shoulder = half / lean.tan();
    // The shoulders of the die hold the legs, half an opening out.
    let top = -t + v / 2.0 * (phi / 2.0).tan();
    let side = v / 2.0 + 10.0;
    vec![
        Section::polygon("punch", &[(0.0, 0.0), (half, shoulder), (-half, shoulder)]),
        Section::polygon("punch", &[(-half, shoulder), (half, shoulder), (half, height), (-half, height)]),
        Section::polygon("beam", &[(-BEAM.1, height), (BEAM.1, height), (BEAM.1, height + BEAM.0), (-BEAM.1, height + BEAM.0)]),
        Section::polygon("die", &[(-side, top - DIE), (side, top - DIE), (side, top), (-side, top)]),
        Section::polygon("bed", &[(-BED.1, top - DIE - BED.0), (BED.1, top - DIE - BED.0), (BED.1, top - DIE), (-BED.1, top - DIE)]),
    ]
}

/// The piece in the frame of a bend's tools: x across, y along the bend, z up the punch; the origin where its tip touches.
pub struct AtTools {
    /// Per panel zone: index and corners on both faces, closed.
    pub panels: Vec<(usize, [Vec<DVec3>; 2])>,
    /// Extent of the bend along y.
    pub reach: (f64, f64),
}

/// `shares` holds how far each zone is folded; the bend itself by its own share there.
pub fn at_tools(zones: &[Zone], b: &BendFact, shares: &[f64], t: f64) -> AtTools {
    let zone = &zones[b.zone];
    let frames = frames_by(zones, shares, t);
    let share = shares[b.zone];
    let phi = b.angle * share;
    let Some(bend) = zone.bend() else { return AtTools { panels: Vec::new(), reach: (0.0, 0.0) } };
    let half = bend.allowance / 2.0;
    let (inner, side) = if b.up { (t, 1.0) } else { (0.0, -1.0) };
    let (u, z) = bend.bent(share, t, half, inner);
    let (s, c) = (phi / 2.0).sin_cos();
    let (tip, x, up) = (DVec3::new(u, 0.0, z), DVec3::new(c, 0.0, side * s), DVec3::new(-s, 0.0, side * c));
    let into = (frames[b.zone] * zone.basis()).inverse();
    let local = |zone: usize, p: DVec2, h: f64| {
        let q = into.transform_point3(frames[zone].transform_point3(p.extend(h))) - tip;
        DVec3::new(q.dot(x), q.y, q.dot(up))
    };
    let mut panels = Vec::new();
    for (i, z) in zones.iter().enumerate().filter(|z| z.1.is_panel()) {
        panels.push((i, [0.0, t].map(|h| z.region.iter().map(|p| local(i, *p, h)).collect())));
    }
    let (low, high) = zone.span_at(half).unwrap_or((0.0, 0.0));
    AtTools { panels, reach: (low, high) }
}

/// Shares of the bend's length that may stay without punch at either end, tried in turn (common practice: a bend holds to its end).
const SHORTER: [f64; 4] = [0.0, 0.05, 0.1, 0.15];

/// What the piece strikes while this bend is made, and how long the punch may be at most where it must be shorter than the bend.
pub fn strikes(zones: &[Zone], b: &BendFact, shares: &[f64], v: f64, t: f64) -> (Vec<Strike>, Option<f64>) {
    let full = struck(zones, b, shares, v, t, 0.0);
    if full.is_empty() {
        return (full, None);
    }
    for less in &SHORTER[1..] {
        if struck(zones, b, shares, v, t, *less).is_empty() {
            return (Vec::new(), Some(b.length() * (1.0 - 2.0 * less)));
        }
    }
    (full, None)
}

/// From lying on the die to its full angle, with a punch shorter by `less` of the bend at either end.
fn struck(zones: &[Zone], b: &BendFact, shares: &[f64], v: f64, t: f64, less: f64) -> Vec<Strike> {
    let mut out: Vec<Strike> = Vec::new();
    let zone = &zones[b.zone];
    // Beyond about 150° a hem is closed by flattening, without the punch.
    let most = (2.62 / b.angle).min(1.0);
    for part in [0.02, 0.5 * most, most] {
        let mut now = shares.to_vec();
        now[b.zone] = part;
        // The piece itself may stand in the way of what moves.
        if let Some(c) = clash(zones, &frames_by(zones, &now, t), t, &|_| true) {
            let panel = zones[c.edge_of].name.clone();
            if out.iter().all(|s| s.panel != panel || s.tool != "piece itself") {
                out.push(Strike { panel, tool: "piece itself" });
            }
        }
        let mut at = at_tools(zones, b, &now, t);
        let off = (at.reach.1 - at.reach.0) * less;
        at.reach = (at.reach.0 + off, at.reach.1 - off);
        let tools = tools(b, b.angle * part, v, t);
        for (i, faces) in &at.panels {
            // The legs of the bend itself lie against the tools.
            let own = zone.parent == Some(*i) || zones[*i].parent == Some(b.zone);
            if out.iter().any(|s| s.panel == zones[*i].name) {
                continue;
            }
            if let Some(tool) = hit(faces, &tools, at.reach, own) {
                out.push(Strike { panel: zones[*i].name.clone(), tool });
            }
        }
    }
    out
}

/// The first tool that a panel comes into: by its edges and two lines through its middle, on both faces.
fn hit(faces: &[Vec<DVec3>; 2], tools: &[Section], (low, high): (f64, f64), own: bool) -> Option<&'static str> {
    for face in faces {
        let n = face.len();
        let centre = face.iter().sum::<DVec3>() / n.max(1) as f64;
        let edges = (0..n).map(|i| (face[i], face[(i + 1) % n]));
        let across = (0..n).map(|i| ((face[i] + face[(i + 1) % n]) / 2.0, centre));
        for (a, b) in edges.chain(across) {
            // Only what lies beside the bend's own length can meet its tools.
            let (mut p, mut q) = (0.0f64, 1.0f64);
            let (fa, fb) = (a.y, b.y);
            let mut clip = |da: f64, db: f64| {
                if da < 0.0 && db < 0.0 {
                    p = 1.0;
                    q = 0.0;
                } else if da < 0.0 {
                    p = p.max(da / (da - db));
                } else if db < 0.0 {
                    q = q.min(da / (da - db));
                }
            };
            clip(fa - low - TOUCH, fb - low - TOUCH);
            clip(high - TOUCH - fa, high - TOUCH - fb);
            if p >= q {
                continue;
            }
            let at = |s: f64| a.lerp(b, s);
            let flat = |v: DVec3| DVec2::new(v.x, v.z);
            let (a, b) = (flat(at(p)), flat(at(q)));
            let found = tools.iter().filter(|t| !own || t.tool == "beam").find(|t| t.meets(a, b, TOUCH));
            if let Some(t) = found {
                return Some(t.tool);
            }
        }
    }
    None
}
