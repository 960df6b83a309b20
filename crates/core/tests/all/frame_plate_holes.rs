//! Holes in plates of a frame: what they weigh, where they stand in space, and which plates are left and
//! right hand.

use std::f64::consts::PI;

use crate::common::frame::*;
use approx::{assert_abs_diff_eq, assert_relative_eq};
use glam::DVec3;
use proptest::prelude::*;
use steelk_core::frame::*;
use steelk_core::job::JointHow;
use steelk_core::shop::material;

/// Where drilled holes open, and which way out of the plate, for each copy of a plate.
fn mouths(r: &FrameResult) -> Vec<(DVec3, DVec3)> {
    let mut out = Vec::new();
    for p in &r.plates {
        for q in &p.places {
            assert_relative_eq!(q.x.cross(q.y).dot(q.z), 1.0, epsilon = 1e-9);
            for b in p.piece.flat.bores.iter().filter(|b| !b.bore.is_plain()) {
                let h = if b.bore.back { 0.0 } else { p.piece.thickness };
                let at = q.o + q.x * b.at[0] + q.y * b.at[1] + q.z * h;
                out.push((at, if b.bore.back { -q.z } else { q.z }));
            }
        }
    }
    out
}

/// Each of them has its image on the other side of a plane that stands on east.
fn is_mirrored_at(all: &[(DVec3, DVec3)], east: f64) -> bool {
    let flip = |v: DVec3, about: f64| DVec3::new(2.0 * about - v.x, v.y, v.z);
    all.iter().all(|(at, out)| {
        let image = (flip(*at, east), flip(*out, 0.0));
        all.iter().any(|o| o.0.distance(image.0) < 1e-6 && o.1.distance(image.1) < 1e-9)
    })
}

const POST: [&str; 4] =
    ["node A 0, 0, 0", "node B 0, 0, 600", "post A B", "foot at A, 150 x 120, 12 thick, holes ⌀11"];

fn made(more: &[&str]) -> FrameResult {
    frame("SHS 60x60x3", JointHow::default(), &[&POST[..], more].concat())
}

#[test]
fn a_drilled_foot_weighs_what_its_cylinders_and_cones_leave() {
    let r = made(&[
        "cut foot-1: slot 40 x 9, 30 from west",
        "bore foot-1: countersunk hole ⌀9, head ⌀18 at 90°, 20 from east, 2 at 40 north",
        "bore foot-1: blind hole ⌀8, 5 deep, flat bottom, from the back, 60 from east, 25 from north",
    ]);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let p = &r.plates[0].piece;
    let cylinder = |d: f64, h: f64| PI * d * d / 4.0 * h;
    let slot = (31.0 * 9.0 + PI * 4.5 * 4.5) * 12.0;
    // From ⌀18 to ⌀9 at 90°: 4.5 deep.
    let csk = PI * 4.5 / 12.0 * (18.0 * 18.0 + 18.0 * 9.0 + 81.0) + cylinder(9.0, 7.5);
    let taken = 4.0 * cylinder(11.0, 12.0) + slot + 2.0 * csk + cylinder(8.0, 5.0);
    let mass = (150.0 * 120.0 * 12.0 - taken) * material("s235").unwrap().density * 1e-9;
    assert_relative_eq!(p.value("mass"), mass, max_relative = 1e-9);
    let mut at: Vec<[f64; 2]> = p.flat.bores.iter().map(|b| b.at).collect();
    at.sort_by(|a, b| a[1].total_cmp(&b[1]));
    // The flat lies 120 wide and 150 high. Two in a row about the middle of the width; the blind one
    // from its own sides.
    for (a, b) in at.iter().zip([[100.0, 55.0], [100.0, 95.0], [60.0, 125.0]]) {
        assert_abs_diff_eq!(a[..], b[..], epsilon = 1e-9);
    }
}

/// A hole off the middle makes a left and a right plate; one on the middle line does not.
#[test]
fn mirrored_plates_that_are_drilled_from_one_face_have_hands() {
    let legs = ["mirror across east at 400"];
    let off =
        made(&[&["bore foot-1: countersunk hole for M8, 50 from west, 40 from south"], &legs[..]].concat());
    assert!(off.faults.is_empty(), "{:?}", off.faults);
    let of: Vec<_> = off.plates.iter().map(|p| (p.piece.name.as_str(), p.places.len())).collect();
    assert_eq!(of, [("base plate", 1), ("base plate, opposite hand", 1)]);
    let sides: Vec<bool> = off.plates.iter().map(|p| p.piece.flat.bores[0].bore.back).collect();
    assert_eq!(sides, [false, true]);
    let all = mouths(&off);
    assert!(all.len() == 2 && is_mirrored_at(&all, 400.0), "{all:?}");
    for at in ["50 from west", "40 from south", "50 from west, from the back"] {
        let side = if at.contains("back") { ", from the back" } else { "" };
        let line =
            format!("bore foot-1: countersunk hole for M8{side}, {}", at.trim_end_matches(", from the back"));
        let r = made(&[&[line.as_str()], &legs[..]].concat());
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        assert_eq!((r.plates.len(), r.plates[0].places.len()), (1, 2), "{line}");
        let all = mouths(&r);
        assert!(all.len() == 2 && is_mirrored_at(&all, 400.0), "{line}: {all:?}");
    }
    // Plain holes have no hands, wherever they lie.
    let plain = made(&[&["bore foot-1: hole for M8, 50 from west, 40 from south"], &legs[..]].concat());
    assert_eq!((plain.plates.len(), plain.plates[0].places.len()), (1, 2));
}

#[test]
fn holes_in_what_is_no_plate_are_refused_with_what_there_is() {
    let r = made(&["bore post-1: tapped hole M8", "cut gusset-9: hole ⌀9", "cut : hole ⌀9"]);
    let told: Vec<_> =
        r.faults.iter().map(|f| (f.line.as_str(), f.path.as_str(), f.fault.mend.as_str())).collect();
    assert_eq!(
        told,
        [
            ("bore-1", "/say/of/0", "name one of foot-1"),
            ("cut-1", "/say/of/0", "name one of foot-1"),
            ("cut-2", "/say/of", "name a line above that makes plates"),
        ]
    );
    // A hole off the plate is a stop of that plate.
    let off = made(&["cut foot-1: hole ⌀9, 300 from west"]);
    assert!(off.plates[0].piece.stops() > 0);
}

proptest! {
    /// Wherever holes lie and from whichever face, mirrored copies open where the mirror image does, and
    /// every copy is counted once.
    #[test]
    fn copies_open_where_their_images_do(
        holes in prop::collection::vec((60..1140u32, 60..1440u32, any::<bool>(), any::<bool>()), 1..4),
        up in any::<bool>(),
    ) {
        let mut lines: Vec<String> = holes
            .iter()
            .map(|(x, y, back, middle)| {
                let side = if *back { ", from the back" } else { "" };
                let x = if *middle { String::new() } else { format!(", {} from west", f64::from(*x) / 10.0) };
                format!("bore foot-1: blind hole ⌀4, 3 deep{side}{x}, {} from south", f64::from(*y) / 10.0)
            })
            .collect();
        lines.push("mirror across east at 400".into());
        if up {
            lines.push("mirror across north at 300".into());
        }
        let r = made(&lines.iter().map(String::as_str).collect::<Vec<_>>());
        prop_assert!(r.faults.is_empty(), "{:?}", r.faults);
        let copies: usize = r.plates.iter().map(|p| p.places.len()).sum();
        prop_assert_eq!(copies, if up { 4 } else { 2 });
        let all = mouths(&r);
        prop_assert_eq!(all.len(), copies * holes.len());
        prop_assert!(is_mirrored_at(&all, 400.0));
    }
}

/// What is wrong with a hole of a plate is told in the frame's words; its holes have a sheet of their own.
#[test]
fn a_plate_with_holes_is_told_and_listed_as_such() {
    let (job, f) = told(
        "SHS 60x60x3",
        JointHow::default(),
        &[&POST[..3], &["foot at A, 150 x 120, 12 thick", "bore foot-1: blind hole ⌀8, 14 deep"]].concat(),
    );
    let job = steelk_core::job::Job { frames: vec![f], ..job };
    let r = steelk_core::evaluate::evaluate(&job);
    let said: Vec<&str> = r.frames[0].findings.iter().map(|f| f.message.as_str()).collect();
    assert!(said.iter().any(|m| m.starts_with("foot-1.A: a hole is drilled 14 deep")), "{said:?}");
    assert!(said.iter().all(|m| !m.contains("drill-1")), "{said:?}");
    let list = steelk_core::evaluate::cut_list(&job, &r);
    assert!(list.frames[0].plates[0].holes);
    assert_eq!(list.frames[0].plates[0].stops, 1);
}
