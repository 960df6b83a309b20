//! The formed solid: overall sizes, volume, and that folding moves nothing within a panel.

use crate::common::*;
use approx::assert_abs_diff_eq;
use glam::DVec2;
use proptest::prelude::*;
use steelk_core::sheet::zones::{formed, frames};
use steelk_core::shop::BendMethod;

#[test]
fn an_angle_reaches_its_outside_lengths() {
    let p = din("2", "2", &["strip 40 up 90 60 wide 30"]);
    assert_abs_diff_eq!(p.value("formed_x"), 40.0, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("formed_y"), 30.0, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("formed_z"), 60.0, epsilon = 1e-9);
}

#[test]
fn a_z_is_told_between_its_outer_faces() {
    let p = din("3", "3", &["strip 50 up 90 80 down 90 40 wide 30"]);
    // The web's outside length runs from the outer sharp of one bend to that of the other: 80 between
    // opposite faces.
    assert_abs_diff_eq!(p.value("formed_z"), 80.0, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("formed_x"), 50.0 + 40.0 - 3.0, epsilon = 1e-9);
}

#[test]
fn a_half_turn_reaches_its_outermost_tangent() {
    let p = din("2", "4", &["strip 40 up 180 25 wide 30"]);
    assert_abs_diff_eq!(p.value("formed_x"), 40.0, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("formed_z"), 12.0, epsilon = 1e-9);
}

/// Pappus: a bend sector holds α·t·(r + t/2)·w, the flat α·(r + K·t)·t·w. They meet as K → 0.5.
#[test]
fn volume_tends_to_the_flat_as_k_tends_to_half() {
    let (t, r, w) = (2.0, 3.0, 50.0);
    for k in [0.3, 0.4, 0.5] {
        let p = made(k_factor(&k.to_string()), &piece("2", "3", &["strip 40 up 90 60 down 45 30 wide 50"]));
        let volume = p.mesh().solid(&p.zones, 1.0, t).volume();
        let alpha = 135f64.to_radians();
        let known = alpha * (0.5 - k) * t * t * w;
        let facets = 1e-2 * alpha * (r + t) * t * w;
        assert_abs_diff_eq!(volume - p.value("area") * t, known, epsilon = facets);
    }
}

#[test]
fn stays_picks_the_leg_that_lies_still() {
    let mut p = piece("2", "2", &["strip 40 up 90 60 wide 30"]);
    if let steelk_core::job::Operation::StartStrip(s) = &mut p.lines[0].say {
        s.stays = "b".into();
    }
    let p = made(school(BendMethod::Din6935), &p);
    assert_abs_diff_eq!(p.value("formed_x"), 60.0, epsilon = 1e-9);
    assert_abs_diff_eq!(p.value("formed_z"), 40.0, epsilon = 1e-9);
}

fn strip_text(legs: &[f64], angles: &[f64]) -> String {
    let mut text = "strip".to_string();
    for (i, l) in legs.iter().enumerate() {
        text += &format!(" {l:.3}");
        if i + 1 < legs.len() {
            let a = angles[i];
            text += &format!(" {} {:.2}", if a < 0.0 { "down" } else { "up" }, a.abs());
        }
    }
    text + " wide 60"
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Watertight at every fold, with holes anywhere, and the flat solid holds area × thickness.
    #[test]
    fn solids_are_watertight(
        legs in prop::collection::vec(30.0..120.0f64, 2..5),
        angles in prop::collection::vec(prop_oneof![15.0..170.0f64, -170.0..-15.0f64], 5),
        x in 0.0..200.0f64, y in 1.0..59.0f64, d in 2.0..40.0f64,
    ) {
        let p = din("2", "3", &[
            &strip_text(&legs, &angles),
            &format!("hole {d:.2} at {x:.2} from west, {y:.2} from south"),
            &format!("slot {:.2} x 8 at {:.2} from west turned 30", d + 9.0, x * 0.7 + 11.0),
        ]);
        for fold in [0.0, 0.37, 1.0] {
            let solid = p.mesh().solid(&p.zones, fold, 2.0);
            prop_assert!(solid.is_watertight(), "fold {fold}");
        }
        let flat: f64 = p.mesh().solid(&p.zones, 0.0, 2.0).volume();
        let area = p.value("area");
        prop_assert!((flat / 2.0 - area).abs() < area * 2e-3, "{flat} {area}");
    }

    /// Distances along any panel are the same flat and formed; unfolded, every point is where it was.
    #[test]
    fn folding_is_isometric(legs in prop::collection::vec(30.0..120.0f64, 2..5),
        angles in prop::collection::vec(-175.0..175.0f64, 5)) {
        prop_assume!(angles.iter().all(|a| a.abs() > 1.0));
        let p = made(school(BendMethod::Handbook90), &piece("2", "3", &[&strip_text(&legs, &angles)]));
        let (formed_frames, flat_frames) = (frames(&p.zones, 1.0, 2.0), frames(&p.zones, 0.0, 2.0));
        for (i, z) in p.zones.iter().enumerate() {
            let (a, b) = (z.min, z.max);
            let at = |q: DVec2, h: f64| formed(z, &formed_frames[i], 1.0, 2.0, q, h);
            if z.bend().is_none() {
                prop_assert!((at(a, 0.0).distance(at(b, 0.0)) - a.distance(b)).abs() < 1e-9);
            }
            prop_assert!((at(a, 0.0).distance(at(a, 2.0)) - 2.0).abs() < 1e-9);
            prop_assert!((formed(z, &flat_frames[i], 0.0, 2.0, a, 1.0) - a.extend(1.0)).length() < 1e-9);
            // Neighbours agree on the line they share.
            if let Some(q) = z.parent {
                let shared = DVec2::new(z.origin.x, z.min.y);
                let theirs = formed(&p.zones[q], &formed_frames[q], 1.0, 2.0, shared, 1.5);
                prop_assert!((at(shared, 1.5) - theirs).length() < 1e-9);
            }
        }
    }
}
