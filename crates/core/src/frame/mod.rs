//! Welded frames: skeleton → joints → pieces. `evaluate_frame` is pure: the same frame gives the same result, and no input makes it panic.

mod alike;
mod arrivals;
mod assembly;
mod attached;
mod bar;
mod bent;
mod bores;
mod check;
mod copying;
mod drill;
mod ends;
mod figures;
mod hole_text;
mod holes;
mod joints;
mod list;
mod model;
mod own;
mod plates;
mod profile;
mod room;
mod saw;
mod scene;
mod section_card;
mod short;
mod short_parts;
mod skeleton;
mod solid;
mod weld;
mod weld_list;
mod wrap;

use std::collections::HashMap;
use std::sync::Arc;

use glam::{DVec2, DVec3};

pub use alike::{Fit, Group};
pub use arrivals::Arrival;
pub use bar::{Bar, Motion, Surface};
pub use bores::Walls;
pub use ends::{Cut, Lie, Look, Plane};
pub use joints::{Joint, Role};
pub use list::{AssemblyRow, BarRow, CutCell, FrameList, PlateRow, SectionTotal, frame_list};
pub use model::{Cause, Hole, Member, Node, Stretch, Trim};
pub use profile::Profile;
pub use saw::SawFacts;
pub use scene::{Place, Standing, standing, whole};
pub use section_card::{SectionCard, SectionFigure, section_cards};
pub use short::read_short as read_frame_short;
pub use skeleton::{Skeleton, stand};
pub use solid::{Body, Lengths, body};
pub use weld::Weld;
pub use weld_list::WeldRow;
pub use wrap::{copes, round_the_outside, skin_holes, skin_outline, template_outline, unrolled, wrap_template};

use assembly::{assemblies, nearest_copy};

use crate::job::{Frame, FrameLine, FrameSay, Job, WeldKind};
use crate::quantity::{Display, FigureTable};
use crate::result::{FigureResult, Finding, LineFault, PieceResult, Severity};
use crate::sheet::reader::{Range, Reader};
use joints::Told;
use plates::Cutting;

pub const MOST_FRAMES: usize = 100;
pub const MOST_FRAME_LINES: usize = 2_000;
/// Plates of one frame, copies counted.
const MOST_PLATES: usize = 5_000;

/// A member with what is worked out of it.
#[derive(Clone, Debug)]
pub struct MemberFacts {
    pub lengths: Lengths,
    /// mm³.
    pub volume: f64,
    pub centre: DVec3,
    /// kg.
    pub mass: f64,
    pub cuts: [Cut; 2],
}

/// A plate of the frame: one body, standing in several places.
#[derive(Clone, Debug)]
pub struct Plate {
    /// `gusset-1`, `lug-1.upright`.
    pub name: String,
    pub line: String,
    pub call: String,
    pub piece: Arc<PieceResult>,
    /// Names of all that are this body.
    pub places: Vec<PlatePlace>,
    pub lifting: bool,
}

#[derive(Clone, Debug)]
pub struct PlatePlace {
    pub name: String,
    /// Flat x, y and up, and where the flat's origin stands.
    pub x: DVec3,
    pub y: DVec3,
    pub z: DVec3,
    pub o: DVec3,
    pub assembly: Option<(usize, usize)>,
}

/// A sub-assembly as told.
#[derive(Clone, Debug)]
pub struct Assembly {
    pub mark: String,
    pub name: String,
    pub copies: usize,
}

/// Everything about one frame.
#[derive(Clone, Debug)]
pub struct FrameResult {
    pub id: String,
    pub mark: String,
    pub name: String,
    pub quantity: usize,
    pub material: String,
    pub display: Display,
    pub made: bool,
    pub nodes: Vec<Node>,
    pub profiles: Vec<Profile>,
    pub members: Vec<Member>,
    pub facts: Vec<MemberFacts>,
    pub groups: Vec<Group>,
    pub joints: Vec<Joint>,
    pub plates: Vec<Plate>,
    pub welds: Vec<Weld>,
    pub assemblies: Vec<Assembly>,
    pub figures: Vec<FigureResult>,
    pub findings: Vec<Finding>,
    pub faults: Vec<LineFault>,
}

impl FrameResult {
    /// Mass of one, kg: members and plates.
    pub fn mass(&self) -> f64 {
        let plates: f64 = self.plates.iter().map(|p| p.piece.value("mass") * p.places.len() as f64).sum();
        self.facts.iter().map(|f| f.mass).sum::<f64>() + plates
    }

    /// Metal of all welds of one, kg.
    pub fn weld_mass(&self) -> f64 {
        self.welds.iter().map(|w| w.mass * w.count as f64).sum()
    }

    /// Centre of gravity of the whole.
    pub fn centre(&self) -> DVec3 {
        let mut sum = DVec3::ZERO;
        for f in &self.facts {
            sum += f.centre * f.mass;
        }
        for p in &self.plates {
            let middle = p.piece.flat_centroid();
            for q in &p.places {
                sum += (q.o + q.x * middle.x + q.y * middle.y + q.z * (p.piece.thickness / 2.0)) * p.piece.value("mass");
            }
        }
        let mass = self.mass();
        if mass > 1e-9 { sum / mass } else { DVec3::ZERO }
    }

    pub fn stops(&self) -> usize {
        self.faults.len() + self.findings.iter().filter(|f| f.severity == Severity::Stop).count()
    }

    pub fn figure(&self, key: &str) -> Option<&FigureResult> {
        self.figures.iter().find(|f| f.key == key)
    }
}

fn empty(frame: &Frame, display: Display) -> FrameResult {
    FrameResult {
        id: frame.id.clone(),
        mark: frame.mark.clone(),
        name: frame.name.clone(),
        quantity: 0,
        material: frame.material.clone(),
        display,
        made: false,
        nodes: Vec::new(),
        profiles: Vec::new(),
        members: Vec::new(),
        facts: Vec::new(),
        groups: Vec::new(),
        joints: Vec::new(),
        plates: Vec::new(),
        welds: Vec::new(),
        assemblies: Vec::new(),
        figures: Vec::new(),
        findings: Vec::new(),
        faults: Vec::new(),
    }
}

/// What lines say besides the skeleton, gathered on the way.
#[derive(Default)]
struct Said {
    joints: HashMap<usize, Told>,
    plates: Vec<usize>,
    welds: Vec<(Vec<usize>, WeldKind, Option<f64>)>,
    assemblies: Vec<(Assembly, Vec<String>)>,
}

/// One frame against its job's figures and settings.
pub fn evaluate_frame(job: &Job, frame: &Frame) -> FrameResult {
    let display = frame.display.unwrap_or(job.display);
    let table = FigureTable::new(&job.figures, job.display.length);
    let mut reader = Reader::new(&table, display);
    let mut out = empty(frame, display);
    out.quantity = reader.count("/quantity", &frame.quantity, 1, 100_000).unwrap_or(0);
    let gap = if frame.gap.trim().is_empty() { 0.0 } else { reader.length("/gap", &frame.gap, Range::ZeroUp).unwrap_or(0.0) };
    let material = skeleton::material_of(&mut reader, "/material", &frame.material);
    if let Some(m) = material {
        out.material = m.name.clone();
    }
    if frame.lines.len() > MOST_FRAME_LINES {
        reader.refuse(
            "/lines",
            "",
            format!("the frame has {} lines; {MOST_FRAME_LINES} is the most", frame.lines.len()),
            "use mirror and repeat, or split the frame",
        );
        out.faults = reader.faults;
        return out;
    }
    let mut s = Skeleton::default();
    let lines: Vec<&FrameLine> = own_ids(&mut reader, frame);
    let said = say(&mut reader, &mut s, job, frame, &lines);
    out.joints = joints::close(&mut s, &said.joints, frame.joint, gap);
    let refused = joints::told_trims(&mut s);
    joints::prune(&mut s);
    seat_notches(&mut s);
    let volumes: Vec<(f64, DVec3)> = s.members.iter().map(|m| solid::volume(m, &s.profiles[m.profile])).collect();
    out.groups = alike::groups(&s, &volumes.iter().map(|v| v.0).collect::<Vec<_>>());
    out.facts = facts(&s, &out.groups, &volumes);
    out.assemblies = assemblies(&mut s, &out.joints, &said.assemblies);
    let placed = place(&mut reader, &s, &lines, &said.plates);
    out.welds = weld::welds(&s, &out.joints, &placed, &said.welds, material.map_or(0.0, |m| m.density));
    out.plates = pieces(job, frame, &s, &placed, &said.assemblies, display);
    out.made = !s.members.is_empty() || !out.plates.is_empty();
    out.faults = reader.faults;
    (out.nodes, out.profiles, out.members) = (s.nodes, s.profiles, s.members);
    out.figures = figures::figures(&out);
    check::check(job, &mut out, &refused);
    out
}

fn own_ids<'a>(reader: &mut Reader, frame: &'a Frame) -> Vec<&'a FrameLine> {
    let mut seen = std::collections::HashSet::new();
    let mut out = Vec::new();
    for line in frame.lines.iter().filter(|l| !l.off) {
        if !line.id.is_empty() && line.id.len() <= 60 && seen.insert(line.id.as_str()) {
            out.push(line);
        } else {
            reader.enter(&line.id);
            reader.refuse("/id", &line.id, format!("the id '{}' is not this line's own", line.id), "give each line an id of its own");
        }
    }
    out
}

/// The lines in order. A line that fails is left out, and the rest goes on.
fn say(reader: &mut Reader, s: &mut Skeleton, job: &Job, frame: &Frame, lines: &[&FrameLine]) -> Said {
    let mut said = Said::default();
    let mut above: Vec<String> = Vec::new();
    for (i, line) in lines.iter().enumerate() {
        reader.enter_line(i, &line.id);
        match &line.say {
            FrameSay::Node(n) => s.say_node(reader, &line.id, n),
            FrameSay::Between(n) => s.say_between(reader, &line.id, n),
            FrameSay::Members(m) => s.say_members(reader, job, frame, line, m),
            FrameSay::Trim(t) => s.say_trim(reader, &line.id, t),
            FrameSay::MirrorFrame(m) => s.say_mirror(reader, &line.id, m, &above),
            FrameSay::RepeatFrame(r) => s.say_repeat(reader, &line.id, r, &above),
            FrameSay::Hole(h) => holes::holes(reader, s, h),
            FrameSay::NotchEnd(n) => holes::notches(reader, s, n),
            FrameSay::Base(b) => base_room(reader, s, &line.id, b, &mut said, i),
            FrameSay::Cap(_) | FrameSay::Gusset(_) | FrameSay::Fit(_) | FrameSay::Lug(_) | FrameSay::RingClamp(_) | FrameSay::Stack(_) => {
                said.plates.push(i);
                Some(())
            }
            FrameSay::Joint(j) => joint(reader, s, &line.id, j, &mut said),
            FrameSay::Weld(w) => weld_said(reader, s, w, &mut said),
            FrameSay::Assembly(a) => copying::lines_named(reader, &a.of, &above).map(|of| {
                said.assemblies.push((Assembly { mark: a.mark.trim().into(), name: a.name.trim().into(), copies: 0 }, of));
            }),
        };
        if skeleton::makes(&line.say) {
            above.push(line.id.clone());
        }
    }
    said
}

/// Notches lie at the finished ends, measured at the middle of the section.
fn seat_notches(s: &mut Skeleton) {
    for i in 0..s.members.len() {
        let m = &s.members[i];
        if m.holes.iter().all(|h| h.notch.is_none()) {
            continue;
        }
        let ends = [m.station(0, DVec2::ZERO), m.length - m.station(1, DVec2::ZERO)];
        for h in &mut s.members[i].holes {
            match h.notch {
                Some(0) => h.along = ends[0] + h.length / 2.0,
                Some(_) => h.along = ends[1] - h.length / 2.0,
                None => {}
            }
        }
    }
}

/// A base plate takes its thickness off the post that stands on it.
fn base_room(reader: &mut Reader, s: &mut Skeleton, line: &str, say: &crate::job::BaseSaid, said: &mut Said, i: usize) -> Option<()> {
    for (plate, member, end) in plates::base(reader, s, say)? {
        let bar = s.members[member].end(end);
        let surface = Surface::Plane { at: bar.o + bar.d * plate.thickness, normal: bar.d };
        let trim = Trim { surface, cause: Cause::Told, by: None };
        s.told.push(skeleton::ToldTrim { line: line.into(), member, end, trim, lengthen: false });
    }
    said.plates.push(i);
    Some(())
}

fn joint(reader: &mut Reader, s: &Skeleton, line: &str, say: &crate::job::JointSaid, said: &mut Said) -> Option<()> {
    let gap = if say.gap.trim().is_empty() { None } else { Some(reader.length("/say/gap", &say.gap, Range::ZeroUp)?) };
    let mut first = Vec::new();
    for (i, name) in say.first.iter().enumerate() {
        first.push(s.known_member(reader, &format!("/say/first/{i}"), name)?);
    }
    for (i, name) in say.at.iter().enumerate() {
        let node = s.known(reader, &format!("/say/at/{i}"), name)?;
        said.joints.insert(node, Told { line: line.into(), how: say.how, first: first.clone(), gap });
    }
    Some(())
}

fn weld_said(reader: &mut Reader, s: &Skeleton, say: &crate::job::WeldSaid, said: &mut Said) -> Option<()> {
    let size = if say.size.trim().is_empty() { None } else { Some(reader.length("/say/size", &say.size, Range::AboveZero)?) };
    let mut at = Vec::new();
    for (i, name) in say.at.iter().enumerate() {
        at.push(s.known(reader, &format!("/say/at/{i}"), name)?);
    }
    said.welds.push((at, say.kind, size));
    Some(())
}

fn facts(s: &Skeleton, groups: &[Group], volumes: &[(f64, DVec3)]) -> Vec<MemberFacts> {
    let mut out: Vec<Option<MemberFacts>> = vec![None; s.members.len()];
    for g in groups {
        // Lengths are those of the body; the cuts of each are its own.
        let first = g.fits[0].member;
        let lengths = solid::lengths(&s.members[first], &s.profiles[s.members[first].profile]);
        for fit in &g.fits {
            let m = &s.members[fit.member];
            let p = &s.profiles[m.profile];
            let (volume, centre) = volumes[fit.member];
            let cuts = [ends::cut(m, p, 0), ends::cut(m, p, 1)];
            out[fit.member] = Some(MemberFacts { lengths, volume, centre, mass: volume * m.material.density * 1e-9, cuts });
        }
    }
    out.into_iter().flatten().collect()
}

/// A plate as cut, and all of its places.
pub(crate) struct Placed {
    pub line: String,
    pub name: String,
    pub cutting: Cutting,
    pub motions: Vec<Motion>,
}

fn place(reader: &mut Reader, s: &Skeleton, lines: &[&FrameLine], which: &[usize]) -> Vec<Placed> {
    let mut out: Vec<Placed> = Vec::new();
    for &i in which {
        let line = lines[i];
        reader.enter_line(i, &line.id);
        let cuttings = match &line.say {
            FrameSay::Cap(c) => plates::cap(reader, s, c),
            FrameSay::Base(b) => {
                // Faults of a base were told when its room was made.
                let before = reader.faults.len();
                let made = plates::base(reader, s, b).map(|v| v.into_iter().map(|p| p.0).collect());
                reader.faults.truncate(before);
                made
            }
            FrameSay::Gusset(g) => plates::gusset(reader, s, g),
            FrameSay::Fit(f) => plates::fit(reader, s, f),
            FrameSay::Lug(l) => attached::lug(reader, s, l),
            FrameSay::RingClamp(r) => attached::ring_clamp(reader, s, r),
            FrameSay::Stack(b) => attached::stack(reader, s, b),
            _ => None,
        };
        for cutting in cuttings.into_iter().flatten().map(Cutting::laid) {
            let name = if cutting.part.is_empty() { line.id.clone() } else { format!("{}.{}", line.id, cutting.part) };
            let motions = copies(s, &line.id, &cutting);
            let so_far: usize = out.iter().map(|p| p.motions.len()).sum();
            if so_far + motions.len() > MOST_PLATES {
                reader.refuse("/say", "", format!("the frame has more than {MOST_PLATES} plates"), "copy fewer, or split the frame");
                return out;
            }
            out.push(Placed { line: line.id.clone(), name, cutting, motions });
        }
    }
    out
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

/// Plates of one body become one sheet piece with all its papers.
fn pieces(job: &Job, frame: &Frame, s: &Skeleton, placed: &[Placed], assemblies: &[(Assembly, Vec<String>)], display: Display) -> Vec<Plate> {
    let mut out: Vec<Plate> = Vec::new();
    let mut seen: HashMap<String, (usize, DVec2)> = HashMap::new();
    let quantity = frame.quantity.clone();
    for p in placed {
        let c = &p.cutting;
        let low = c.outer.bounds().min;
        let key = list::plate_key(c);
        let at = match seen.get(&key) {
            Some(&(at, _)) => at,
            None => {
                let loops: Vec<_> = std::iter::once(c.outer.clone()).chain(c.holes.clone()).collect();
                let said = crate::job::Piece {
                    id: format!("{}.{}", frame.id, p.name),
                    mark: list::mark_of(frame, &p.name).unwrap_or_else(|| format!("{}/P{}", frame.mark, out.len() + 1)),
                    name: list::name_of(frame, &p.name).unwrap_or_else(|| c.call.clone()),
                    quantity: quantity.clone(),
                    material: frame.material.clone(),
                    thickness: display.typed(c.thickness),
                    display: frame.display,
                    lines: crate::sheet::lines_from(&loops, &display),
                    ..crate::job::Piece::default()
                };
                let piece = crate::sheet::evaluate_piece(job, &said);
                seen.insert(key, (out.len(), low));
                out.push(Plate {
                    name: p.name.clone(),
                    line: p.line.clone(),
                    call: c.call.clone(),
                    piece: Arc::new(piece),
                    places: Vec::new(),
                    lifting: c.lifting,
                });
                out.len() - 1
            }
        };
        let of = assemblies.iter().position(|a| a.1.contains(&p.line));
        for (k, motion) in p.motions.iter().enumerate() {
            // A mirrored plate is the same plate turned over: its thickness runs the other way.
            let (x, y, z) = (motion.turn(c.x), motion.turn(c.y), motion.turn(c.z));
            let o = c.point(low, 0.0, motion);
            let name = if k == 0 { p.name.clone() } else { format!("{}#{}", p.name, k + 1) };
            let middle = c.point(c.outer.centroid(), c.thickness / 2.0, motion);
            out[at].places.push(PlatePlace { name, x, y, z, o, assembly: of.map(|a| (a, nearest_copy(s, a, middle))) });
        }
    }
    for plate in &mut out {
        let count = plate.places.len();
        let mut piece = (*plate.piece).clone();
        piece.quantity *= count;
        plate.piece = Arc::new(piece);
    }
    out
}
