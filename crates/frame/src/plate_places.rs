//! Plates and everything attached: where each stands, with its copies, and the sheet piece that it is cut as.

use std::collections::HashMap;
use std::sync::Arc;

use glam::DVec3;
use ground::geom::{Contour, roomiest};
use ground::reader::Tell;
use ground::reference;
use sheet::result::{Guide, PieceResult};
use sheet::{EdgeFold, PlateSpec, evaluate_plate};
use shop::{Material, SheetShop};

use super::assembly::nearest_copy;
use super::bar::Motion;
use super::evaluate::LineSpec;
use super::list;
use super::result::{Plate, PlatePlace};
use crate::build::overrides::{Assembly, FrameOverrides};
use crate::build::plate_holes;
use crate::build::plates::Cutting;
use crate::build::rims;
use crate::build::skeleton::{self, Skeleton};
use crate::build::spec::{Spec, Turn};
use crate::document::Frame;

/// Plates of one frame, copies counted.
const MOST_PLATES: usize = 5_000;

/// A plate as cut, and all of its places.
pub struct Placed {
    pub line: String,
    pub name: String,
    pub cutting: Cutting,
    pub motions: Vec<Motion>,
}

/// The plates of the lines that make some, where they and their copies stand.
pub fn place(tell: &mut Tell, s: &Skeleton, lines: &[LineSpec], told: &FrameOverrides) -> Vec<Placed> {
    let holes = &told.plate_holes;
    rims::unknown(tell, &told.rims, s);
    let mut out: Vec<Placed> = Vec::new();
    let mut count = 0;
    for line in lines {
        let Some(Spec::Plates(spec)) = &line.spec else { continue };
        tell.enter(&line.id);
        let cuttings = spec.cut(&mut Turn { tell, line: &line.id, above: &[], rims: &told.rims }, s);
        for mut cutting in cuttings.into_iter().flatten().map(Cutting::laid) {
            let name = if cutting.part.is_empty() {
                line.id.clone()
            } else {
                reference::part(&line.id, &cutting.part)
            };
            plate_holes::put(holes, &line.id, &name, &mut cutting);
            let motions = copies(s, &line.id, &cutting);
            count += motions.len();
            if count > MOST_PLATES {
                let message = format!("the frame has more than {MOST_PLATES} plates");
                tell.refuse_at("/say", message, "copy fewer, or split the frame");
                return out;
            }
            out.push(Placed { line: line.id.clone(), name, cutting, motions });
        }
    }
    let stand: Vec<(String, String)> = out.iter().map(|p| (p.name.clone(), p.line.clone())).collect();
    plate_holes::unknown(tell, holes, &stand);
    out
}

/// What the plate's own recipe could not be, told of the line that makes it.
fn refuse(tell: &mut Tell, p: &Placed, piece: &PieceResult) {
    for f in &piece.faults {
        // A flange is told by a line of its own.
        let tells = |fold: &&EdgeFold| f.line == fold.told_by || f.line == fold.holes_id();
        if let Some(fold) = p.cutting.folds.iter().find(tells) {
            tell.enter(&fold.told_by);
            tell.refuse_at(&f.path, format!("{}: {}", p.name, f.fault.message), f.fault.mend.clone());
            tell.enter(&p.line);
            continue;
        }
        let path = if f.path == "/thickness" { "/say/thickness" } else { "/say" };
        tell.refuse_at(path, format!("{}: {}", p.name, f.fault.message), f.fault.mend.clone());
    }
}

/// Where the mirrors and bays put a plate; one that lands on itself stays one.
fn copies(s: &Skeleton, line: &str, c: &Cutting) -> Vec<Motion> {
    let mut out = vec![Motion::NONE];
    let mut at = vec![c.point(c.outer.centroid(), c.thickness / 2.0, &Motion::NONE)];
    let mut base = 1;
    let mut last = "";
    for copy in &s.copies {
        if copy.line != last {
            base = out.len();
            last = &copy.line;
        }
        if !copy.of.iter().any(|l| l == line) {
            continue;
        }
        for k in 0..base {
            let motion = out[k].then(&copy.motion);
            let centre = c.point(c.outer.centroid(), c.thickness / 2.0, &motion);
            if out.len() < MOST_PLATES && at.iter().all(|p| p.distance(centre) > skeleton::SAME) {
                out.push(motion);
                at.push(centre);
            }
        }
    }
    out
}

fn copy_name(name: &str, k: usize) -> String {
    if k == 0 { name.into() } else { format!("{name}#{}", k + 1) }
}

/// The axes and the lower left corner of a flat where its plate stands; the face that it shows is on the side
/// of `z`.
struct Stands {
    o: DVec3,
    x: DVec3,
    y: DVec3,
    z: DVec3,
}

impl Stands {
    /// `over` is the middle line that a mirrored copy of a plate which is its own image is turned over about.
    fn of(c: &Cutting, motion: &Motion, over: Option<usize>) -> Stands {
        let (x, y, z) = (motion.turn(c.x), motion.turn(c.y), motion.turn(c.z));
        let b = c.outer.bounds();
        let mut out = Stands { o: c.point(b.min, 0.0, motion), x, y, z };
        // A flat has one face up, whichever way its thickness was told.
        if out.x.cross(out.y).dot(out.z) < 0.0 {
            out.o += out.z * c.thickness;
            out.z = -out.z;
        }
        if let Some(k) = over {
            let (along, size) = if k == 0 { (out.x, b.size().x) } else { (out.y, b.size().y) };
            out.o += along * size + out.z * c.thickness;
            out.z = -out.z;
            if k == 0 {
                out.x = -out.x;
            } else {
                out.y = -out.y;
            }
        }
        out
    }
}

/// The frame that plates belong to: how many there are, and what they are made of.
pub struct Of<'a> {
    pub frame: &'a Frame,
    pub quantity: usize,
    pub material: Arc<Material>,
}

/// Plates of one body become one sheet piece with all its papers. One that cannot be made is refused at its
/// line and left out.
pub fn pieces(
    tell: &mut Tell,
    shop: &SheetShop,
    of: &Of,
    s: &Skeleton,
    placed: &[Placed],
    assemblies: &[(Assembly, Vec<String>)],
) -> Vec<Plate> {
    let Of { frame, quantity, ref material } = *of;
    let display = frame.display.unwrap_or(shop.display);
    let mut out: Vec<Plate> = Vec::new();
    let mut seen: HashMap<String, Option<usize>> = HashMap::new();
    for p in placed {
        let sided = p.cutting.is_sided();
        let itself = if sided { p.cutting.mirrors_itself() } else { None };
        let other = (sided && itself.is_none()).then(|| p.cutting.other_hand());
        let of = assemblies.iter().position(|a| a.1.contains(&p.line));
        for (k, motion) in p.motions.iter().enumerate() {
            let mirrored = motion.mirrors();
            let hand = other.as_ref().filter(|_| mirrored);
            let c = hand.unwrap_or(&p.cutting);
            let key = list::plate_key(c);
            let at = match seen.get(&key) {
                Some(&Some(at)) => at,
                Some(None) => continue,
                None => {
                    // The opposite hand is called by the first copy that is one.
                    let called = copy_name(&p.name, if hand.is_some() { k } else { 0 });
                    let plate = PlateSpec {
                        id: format!("{}.{called}", frame.id),
                        mark: list::mark_of(frame, &p.name)
                            .filter(|_| hand.is_none())
                            .unwrap_or_else(|| format!("{}/P{}", frame.mark, out.len() + 1)),
                        name: list::name_of(frame, &p.name).unwrap_or_else(|| c.call.clone())
                            + if hand.is_some() { ", opposite hand" } else { "" },
                        quantity,
                        material: c.material.as_ref().unwrap_or(material).clone(),
                        thickness: c.thickness,
                        display,
                        outer: c.outer.clone(),
                        holes: c.holes.clone(),
                        bores: c.bores.iter().map(|b| (b.at, b.hole.clone())).collect(),
                        folds: c.folds.clone(),
                        bevels: c.bevels.clone(),
                        is_joined: c.is_joined,
                    };
                    let piece = evaluate_plate(shop, &plate);
                    tell.enter(&p.line);
                    refuse(tell, p, &piece);
                    if !piece.made || !piece.value("mass").is_finite() {
                        seen.insert(key, None);
                        continue;
                    }
                    seen.insert(key, Some(out.len()));
                    out.push(Plate {
                        name: called,
                        line: p.line.clone(),
                        call: c.call.clone(),
                        piece: Arc::new(piece),
                        places: Vec::new(),
                        lifting: c.lifting,
                        tube: c.tube,
                    });
                    out.len() - 1
                }
            };
            let middle = c.point(c.outer.centroid(), c.thickness / 2.0, motion);
            let stands = Stands::of(c, motion, itself.filter(|_| mirrored));
            out[at].places.push(PlatePlace {
                name: copy_name(&p.name, k),
                x: stands.x,
                y: stands.y,
                z: stands.z,
                o: stands.o,
                assembly: of.map(|a| (a, nearest_copy(s, a, middle))),
                corner: c.corner.clone(),
            });
        }
    }
    // Ribs of a row that differ are told apart by their marks, cut into them.
    let kinds = |line: &str| out.iter().filter(|p| p.line == line).count();
    let differing: Vec<&str> = s.ribs.iter().map(|r| r.line.as_str()).filter(|l| kinds(l) > 1).collect();
    for plate in &mut out {
        let count = plate.places.len();
        let mut piece = (*plate.piece).clone();
        piece.quantity *= count;
        if differing.contains(&plate.line.as_str()) {
            piece.flat.guides.extend(marked(&piece));
        }
        plate.piece = Arc::new(piece);
    }
    out
}

/// The mark of a plate as a word on it, where it has the most room.
fn marked(piece: &PieceResult) -> Option<Guide> {
    let holes: Vec<&Contour> = piece.flat.holes.iter().map(|h| &h.contour).collect();
    let at = roomiest(&piece.flat.outer, &holes)?.to_array();
    Some(Guide { from: at, to: at, text: piece.mark.clone() })
}
