//! Flanges of hoppers: flats by hand, holes that meet those of the counter-flange, ends that keep clear of
//! one another, over random hoppers. Flats are folded here by the test's own few lines.

use approx::assert_relative_eq;
use glam::{DVec2, DVec3};
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::frame::*;
use steelk_core::geom::convex::{Prism, clipped, hull};
use steelk_core::job::*;
use steelk_core::sheet::zones::{BendZone, Kind, Zone};

use crate::common::frame::*;

fn hopper(lines: &[&str]) -> FrameResult {
    frame("60x60x3", JointHow::Butt, lines)
}

pub fn at<'a>(r: &'a FrameResult, name: &str) -> Option<(&'a Plate, &'a PlatePlace)> {
    r.plates.iter().find_map(|p| Some((p, p.places.iter().find(|q| q.name == name)?)))
}

/// A point of a flange, so high over the lower face of its flat, where its bend brings it.
fn folded(bend: &Zone, of: &BendZone, t: f64, q: DVec2, height: f64) -> DVec3 {
    let on = (q - bend.origin).dot(bend.along);
    let foot = q - bend.along * on;
    let beyond = on - of.allowance;
    assert!(beyond > -1e-6, "{q} lies in the bend");
    let (sin, cos) = of.angle.sin_cos();
    // Round the middle of the bend, over or under the sheet.
    let from = if of.up { height - (t + of.radius) } else { height + of.radius };
    let middle = if of.up { t + of.radius } else { -of.radius };
    let sense = if of.up { 1.0 } else { -1.0 };
    let section = DVec2::new(-from * sense * sin + beyond * cos, middle + from * cos + sense * beyond * sin);
    (foot + bend.along * section.x).extend(section.y)
}

/// A flange where it stands: its body, and the middles of its holes on its lower and on its upper face.
pub struct Flange {
    pub body: Prism,
    pub faces: [Vec<DVec3>; 2],
    pub up: bool,
    pub holes: [Vec<DVec3>; 2],
}

impl Flange {
    /// How near a hole's middle comes to the border of its face.
    fn edge_distance(&self) -> f64 {
        let ring = &self.faces[0];
        let side = |k: usize, p: DVec3| {
            let (a, b) = (ring[k], ring[(k + 1) % ring.len()]);
            let share = ((p - a).dot(b - a) / (b - a).length_squared()).clamp(0.0, 1.0);
            p.distance(a + (b - a) * share)
        };
        let all = self.holes[0].iter().flat_map(|p| (0..ring.len()).map(move |k| side(k, *p)));
        all.fold(f64::INFINITY, f64::min)
    }
}

/// A side where it stands: its wall, and its flanges.
fn side(r: &FrameResult, name: &str) -> Option<(Prism, Vec<Flange>)> {
    let (plate, place) = at(r, name)?;
    let (t, zones) = (plate.piece.thickness, &plate.piece.zones);
    let stand = |p: DVec3| place.o + place.x * p.x + place.y * p.y + place.z * p.z;
    let prism = |on: &dyn Fn(f64) -> Vec<DVec3>| Prism { corners: [on(0.0), on(t)].concat() };
    let ring = hull(zones[0].region.clone());
    // A bevelled edge is cut back on the upper face.
    let cut = plate.piece.flat.bevels.iter().fold(ring.clone(), |ring, b| {
        let [a, c] = b.edge;
        let out = (a - c).normalize().perp();
        let out = if out.dot(ring[0] + ring[1] + ring[2] - a * 3.0) > 0.0 { -out } else { out };
        clipped(&ring, out, out.dot(a) - b.back)
    });
    let lies = |h: f64| if h > 0.0 { &cut } else { &ring };
    let wall = prism(&|h| lies(h).iter().map(|q| stand(q.extend(h))).collect());
    let panels = zones.iter().filter_map(|z| {
        let bend = &zones[z.parent?];
        let Kind::Bend(of) = bend.kind else { return None };
        let ring = hull(z.region.clone());
        let on = |h: f64, q: &DVec2| stand(folded(bend, &of, t, *q, h));
        let lies = |q: &DVec2| (*q - bend.origin).dot(bend.along) > of.allowance;
        let holes: Vec<DVec2> = plate.piece.flat.holes.iter().map(|h| h.contour.centroid()).collect();
        let holes = |h: f64| holes.iter().filter(|q| lies(q)).map(|q| on(h, q)).collect::<Vec<_>>();
        let face = |h: f64| ring.iter().map(|q| on(h, q)).collect::<Vec<_>>();
        Some(Flange {
            body: prism(&face),
            faces: [face(0.0), face(t)],
            up: of.up,
            holes: [holes(0.0), holes(t)],
        })
    });
    Some((wall, panels.collect()))
}

/// Flanges on all sides of an opening, mitred where a gap is told, with holes and a ring.
pub fn rim_line(of: &str, upper: bool, width: f64, inward: bool, gap: Option<f64>, count: usize) -> String {
    let opening = if upper { "top" } else { "bottom" };
    let turned = if inward { ", inward" } else { "" };
    let ends = gap.map_or(String::new(), |gap| format!(", mitred {gap}"));
    format!("rim {of} {opening}, {width} wide{turned}{ends}, holes 8, {count} a side, counter-flange 5")
}

const SIDES: [&str; 4] = ["south", "east", "north", "west"];

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1000))]

    #[test]
    fn flanges_lie_in_their_opening_meet_their_ring_and_keep_clear(
        bottom in (150.0..900.0f64, 150.0..900.0f64), top in (150.0..900.0f64, 150.0..900.0f64),
        high in 100.0..900.0f64, by in (-150.0..150.0f64, -150.0..150.0f64),
        t in 0.8..6.0f64, over in 0usize..3,
        rise in prop::option::of((0.0..120.0f64, 0usize..4)), upper: bool, width in 40.0..60.0f64,
        inward: bool, mirrored: bool, gap in prop::option::of(1.0..6.0f64), count in 1usize..8,
        corners in 0usize..5,
    ) {
        // Plates that differ by less than 0.005 mm are one row, drawn as one of them.
        let whole = |v: f64| if v.abs() < 0.5 { 0.0 } else { v };
        let by = (whole(by.0), whole(by.1));
        let measure = ["inside", "mid-thickness", "outside"][over];
        let mut line = format!(
            "hopper {} x {} to {} x {} {measure}, {high} high, {t} thick", bottom.0, bottom.1, top.0, top.1
        );
        if let Some((by, side)) = rise {
            line += &format!(", rising to {} {}", high + by, SIDES[side]);
        }
        line += &format!(", {} east, {} north", by.0, by.1);
        let met =
            ["", ", north and south over", ", east and west over, gap 1", ", mitred", ", mitred, gap 2"];
        line += met[corners];
        let rim = rim_line("hopper-1", upper, width, inward, gap, count);
        let mut lines = vec![&*line, &*rim];
        if mirrored {
            lines.push("mirror hopper-1 east 3000");
        }
        let r = hopper(&lines);
        if let Some(fault) = r.faults.first() {
            let crosses = fault.fault.message.contains("cross at the");
            let sharp = |p: &Plate| {
                let of = |z: &Zone| match z.kind {
                    Kind::Bend(b) => (b.radius + p.piece.thickness) * (b.angle / 2.0).tan(),
                    _ => 0.0,
                };
                p.piece.zones.iter().map(of).fold(0.0, f64::max)
            };
            let widest = r.plates.iter().map(sharp).fold(0.0, f64::max);
            let short = fault.fault.message.contains("too short for its bend");
            // Sides that lean in may meet below the higher edge, and a steep opening runs into the lower one.
            let steep = ["leave nothing of the upper", "tilted so far"];
            let met = rise.is_some() && steep.iter().any(|w| fault.fault.message.contains(w));
            let crowded = fault.fault.message.contains("run over the ends");
            if crowded {
                // Small holes in the same places are made: somewhere one stands nearer to an end than 4.
                let small = rim.replace("holes 8", "holes 0.2");
                let r = hopper(&[&*line, &*small]);
                let nearest = SIDES.iter().flat_map(|n| side(&r, &format!("hopper-1.{n}")).unwrap().1);
                let nearest = nearest.map(|f| f.edge_distance()).fold(f64::INFINITY, f64::min);
                prop_assert!(nearest < 4.0 + 1e-6, "{nearest} {:?}: {line} / {rim}", r.faults);
            }
            let fits = met
                || crowded
                || if crosses { inward && gap.is_none() } else { short || widest > width / 2.0 - 4.0 };
            prop_assert!(fits, "{:?}: {line} / {rim}", r.faults);
            return Ok(());
        }
        for copy in if mirrored { vec!["", "#2"] } else { vec![""] } {
            let names: Vec<String> = SIDES.iter().map(|n| format!("hopper-1.{n}{copy}")).collect();
            let ring = format!("hopper-1.{}-counter{copy}", if upper { "upper" } else { "lower" });
            let sides = flanged(&r, &names, &ring, count, gap, &format!("{line} / {rim}"))?;
            for k in (0..4).filter(|_| corners > 2) {
                let apart = sides[k].0.apart(&sides[(k + 1) % 4].0);
                let told = if corners == 4 { 2.0 } else { 0.0 };
                prop_assert!((apart - told).abs() < 1e-6, "walls are {apart} apart: {line} / {rim}");
            }
        }
    }
}

/// The sides of an opening in turn, each with one flange: each of these lies in the opening and its holes
/// meet those of the ring on it; mitres are as far apart as told, and no flange stands in a wall beside it.
pub fn flanged(
    r: &FrameResult,
    names: &[String],
    ring: &str,
    count: usize,
    gap: Option<f64>,
    told: &str,
) -> Result<Vec<(Prism, Vec<Flange>)>, TestCaseError> {
    let sides: Vec<_> = names.iter().map(|n| side(r, n).unwrap()).collect();
    let (ring, place) = at(r, ring).unwrap();
    let lies = |p: DVec3| (p - place.o).dot(place.z);
    // The holes of the ring, on the face that lies on the flanges.
    let low = |q: DVec2| place.o + place.x * q.x + place.y * q.y;
    let middle = sides[0].1[0].faces[0][0];
    let foot = if lies(middle) > 2.5 { place.z * 5.0 } else { DVec3::ZERO };
    let round = ring.piece.flat.holes.iter().filter(|h| h.contour.as_circle().is_some());
    let holes: Vec<DVec3> = round.map(|h| low(h.contour.centroid()) + foot).collect();
    prop_assert_eq!(holes.len(), count * names.len(), "holes of the ring");
    for (name, (_, flanges)) in names.iter().zip(&sides) {
        prop_assert_eq!(flanges.len(), 1);
        let f = &flanges[0];
        // The face outside of the bend lies in the opening.
        let outer = usize::from(!f.up);
        for p in &f.faces[outer] {
            let off = lies(*p - foot);
            prop_assert!(off.abs() < 1e-6, "{name} lies {off} off its ring: {told}");
        }
        prop_assert_eq!(f.holes[outer].len(), count);
        for h in &f.holes[outer] {
            let near = holes.iter().map(|o| o.distance(*h)).fold(f64::INFINITY, f64::min);
            prop_assert!(near < 1e-6, "{name}: a hole {near} off: {told}");
        }
    }
    for (k, a) in sides.iter().enumerate() {
        let b = &sides[(k + 1) % sides.len()];
        let between = a.1[0].body.apart(&b.1[0].body);
        match gap {
            Some(gap) => prop_assert!((between - gap).abs() < 1e-6, "{between} at {k}: {told}"),
            None => prop_assert!(between > 0.0, "{between} at {k}: {told}"),
        }
        let walls = a.1[0].body.apart(&b.0).min(b.1[0].body.apart(&a.0));
        prop_assert!(walls > 0.0, "a flange is {walls} from the wall beside it: {told}");
    }
    Ok(sides)
}

/// DIN 6935:2011, 90°: the neutral line lies k·t/2 out of the inside radius, k = 0.65 + lg(r/t)/2, at most
/// 1.
pub fn developed(r: f64, t: f64) -> f64 {
    let k = (0.65 + 0.5 * (r / t).log10()).min(1.0);
    std::f64::consts::FRAC_PI_2 * (r + k * t / 2.0)
}

/// A straight duct: flats are its walls and flanges with the bends between, by DIN 6935.
#[test]
fn flats_of_a_duct_by_hand() {
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
        "rim hopper-1 top, 40 wide, R4, holes 9, 3 a side, 25 from the root, counter-flange 5",
        "rim hopper-1 bottom on south and north, 30 wide, R4, set back 10",
    ]);
    clean(&r);
    let straight = |outside: f64| outside - (4.0 + 3.0);
    let one = straight(40.0) + straight(250.0) + developed(4.0, 3.0);
    let two = straight(30.0) + one - (4.0 + 3.0) + developed(4.0, 3.0);
    for (name, across, along) in [("south", 300.0, two), ("east", 200.0, one)] {
        let (p, _) = at(&r, &format!("hopper-1.{name}")).unwrap();
        assert_eq!(p.places.len(), 2, "opposite sides are equal");
        let size = p.piece.flat.outer.bounds().size();
        assert_relative_eq!(size.min_element().min(across), across.min(along), epsilon = 1e-6);
        assert_relative_eq!(size.x * size.y, across * along, epsilon = 1e-4);
        // Three holes at half a step from the ends, 15 from the tip.
        let b = p.piece.flat.outer.bounds();
        assert_eq!(p.piece.flat.holes.len(), 3);
        let mut steps: Vec<f64> = Vec::new();
        for h in &p.piece.flat.holes {
            let c = h.contour.centroid();
            let from = [c.x - b.min.x, b.max.x - c.x, c.y - b.min.y, b.max.y - c.y];
            assert!(from.iter().any(|v| (v - 15.0).abs() < 1e-6), "{c} in {b:?}");
            steps.push(if (size.x - across).abs() < 1e-6 { from[0] } else { from[2] });
        }
        steps.sort_by(f64::total_cmp);
        for (k, s) in steps.iter().enumerate() {
            assert_relative_eq!(*s, across * (k as f64 + 0.5) / 3.0, epsilon = 1e-6);
        }
    }
    // What is welded all along its sides has no sharp corner to find.
    let found =
        |name: &str, check: &str| at(&r, name).unwrap().0.piece.findings.iter().any(|f| f.check == check);
    assert!(!found("hopper-1.south", "sharp_corners") && found("hopper-1.upper-counter", "sharp_corners"));
    let (ring, place) = at(&r, "hopper-1.upper-counter").unwrap();
    let area = 380.0 * 280.0 - 300.0 * 200.0 - 12.0 * std::f64::consts::PI * 4.5f64.powi(2);
    assert_relative_eq!(ring.piece.value("area"), area, epsilon = 1e-6);
    assert_relative_eq!(place.o.z.min(place.o.z + place.z.z * 5.0), 250.0, epsilon = 1e-9);
}

/// Two sides that are mirror images of one another are one plate while they are plane, and two hands with
/// a flange.
#[test]
fn hands_are_told_apart_by_their_flanges() {
    let chute = "hopper 300 x 250 to 500 x 400, 400 high, 3 thick, flush north";
    let count = |r: &FrameResult, name: &str| at(r, name).unwrap().0.places.len();
    let plane = hopper(&[chute]);
    assert_eq!(count(&plane, "hopper-1.east"), 2);
    let flanged = hopper(&[chute, "rim hopper-1 top, 50 wide"]);
    clean(&flanged);
    assert_eq!(count(&flanged, "hopper-1.east"), 1);
    let bends = |name: &str| at(&flanged, name).unwrap().0.piece.flat.bends.iter().all(|b| b.up);
    assert!(bends("hopper-1.east") && bends("hopper-1.west"), "both lie so that they are bent up");
    // What stands in a mirror is the other hand: of the four, two and two are equal.
    let twice = hopper(&[chute, "rim hopper-1 top, 50 wide", "mirror hopper-1 east 2000"]);
    clean(&twice);
    assert_eq!([count(&twice, "hopper-1.east"), count(&twice, "hopper-1.west")], [2, 2]);
    assert_eq!(count(&twice, "hopper-1.south"), 2, "one that is its own image stays one");
    let masses = [&flanged, &twice].map(|r| r.mass());
    assert_relative_eq!(masses[1], 2.0 * masses[0], max_relative = 1e-9);
}

#[test]
fn mitred_corners_lengthen_the_seams() {
    let welded = |lines: &[&str]| -> f64 {
        let r = hopper(lines);
        clean(&r);
        r.welds.iter().map(|w| w.length * w.count as f64).sum()
    };
    let duct = "hopper 300 x 200 to 300 x 200, 250 high, 3 thick";
    let plain = welded(&[duct, "rim hopper-1 top, 40 wide"]);
    assert_relative_eq!(plain, 4.0 * 250.0, epsilon = 1e-6);
    let mitred = welded(&[duct, "rim hopper-1 top, 40 wide, mitred 2"]);
    assert_relative_eq!(mitred - plain, 4.0 * 40.0 * 2f64.sqrt(), epsilon = 1e-6);
    // Bent 60° only, a mitre runs as far out as it runs along: 40 sin 60° each way, and 40 cos 60° up.
    let leaning = welded(&[duct, "rim hopper-1 top, 40 wide, at 120°, mitred 2"]);
    let one = 40.0 * (2.0 * 0.75f64 + 0.25).sqrt();
    assert_relative_eq!(leaning - plain, 4.0 * one, epsilon = 1e-6);
}

/// Told in inches: 4 in flanges level with a rim, 1 in holes 2 1/2 in from the root, five on one side and
/// seven on another.
#[test]
fn a_feed_chute_in_inches() {
    let r = hopper(&[
        "hopper 24in x 18in to 40in x 30in, 36in high, 1/4in thick, rising to 44in north, 3in east",
        "rim hopper-1 top on south and north, 4in wide, holes 1in, 5 a side, 2 1/2in from the root",
        "rim hopper-1 top on east and west, 4in wide, holes 1in, 7 a side, 2 1/2in from the root",
    ]);
    clean(&r);
    for (name, holes) in [("south", 5), ("east", 7), ("north", 5), ("west", 7)] {
        let (_, flanges) = side(&r, &format!("hopper-1.{name}")).unwrap();
        assert_eq!(flanges[0].holes[0].len(), holes, "{name}");
        let (plate, _) = at(&r, &format!("hopper-1.{name}")).unwrap();
        assert!(plate.piece.findings.iter().all(|f| f.check != "edge_narrowed"), "{name}");
    }
}

#[rstest]
#[case("rim stack-1 top, 40 wide", "/of")]
#[case("rim hopper-9 top, 40 wide", "/of")]
#[case("rim hopper-1 top, 4 wide", "/width")]
#[case("rim hopper-1 top, 40 wide, inward", "/ends")]
#[case("rim hopper-1 top, 40 wide, inward, set back 10", "/ends")]
#[case("rim hopper-1 top, 110 wide, inward, mitred 2", "/width")]
#[case("rim hopper-1 top, 40 wide, holes 9", "/count")]
#[case("rim hopper-1 top, 40 wide, holes 9, 4 a side, every 50", "/pitch")]
#[case("rim hopper-1 top, 40 wide, 4 a side", "/count")]
#[case("rim hopper-1 top, 40 wide, holes 9, 4 a side, 38 from the root", "/across")]
#[case("rim hopper-1 top, 40 wide, holes 9, 4 a side, 6 from the root", "/across")]
#[case("rim hopper-1 top, 40 wide, holes 9, 4 a side, 120 from the ends", "/from_ends")]
#[case("rim hopper-1 top, 40 wide, holes 9, every 0.1", "/pitch")]
#[case("rim hopper-1 top, 40 wide, holes 9, 40 a side", "/count")]
#[case("rim hopper-1 top, 40 wide, holes 9, every 8", "/pitch")]
#[case("rim hopper-1 top, 40 wide, holes 9, 4 a side, 4 from the ends", "/from_ends")]
#[case("rim hopper-1 top on south, 40 wide, counter-flange 5", "/counter")]
#[case("rim hopper-1 top, 40 wide, at 100°, counter-flange 5", "/counter")]
#[case("rim hopper-1 top, 40 wide, at 0°", "/angle")]
#[case("rim hopper-2 top, 40 wide", "/opening")]
#[case("rim hopper-2 bottom on east, 40 wide", "/sides/0")]
fn what_is_no_flange_is_refused_with_its_field(#[case] line: &str, #[case] field: &str) {
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
        "hopper 200 x 150 to 0 x 0, 250 high, 1 thick, open east",
        "stack on A: 10 x 10 x 10",
        "node A 0 0 900",
        line,
    ]);
    assert!(!r.faults.is_empty(), "{line} was taken");
    for fault in &r.faults {
        assert_eq!(fault.line, "rim-1", "{line}");
        assert!(fault.path.ends_with(field), "{} for {line}", fault.path);
        assert!(!fault.fault.mend.is_empty());
    }
    for name in ["hopper-1.south", "hopper-1.north", "hopper-2.south", "hopper-2.west"] {
        assert!(at(&r, name).is_some(), "{name} stands without it: {line}");
    }
}

#[test]
fn an_edge_has_one_flange() {
    let r = hopper(&[
        "hopper 300 x 200 to 300 x 200, 250 high, 3 thick",
        "rim hopper-1 top on south, 40 wide",
        "rim hopper-1 top, 30 wide",
    ]);
    assert_eq!(r.faults.len(), 1);
    assert!(r.faults[0].fault.message.contains("by rim-1 already"));
    for name in SIDES {
        assert_eq!(side(&r, &format!("hopper-1.{name}")).unwrap().1.len(), 1);
    }
}
