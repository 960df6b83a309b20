//! Where a formed piece runs into itself, against what its section says without any solid: legs of a profile
//! as boxes, worked out here by hand.

use proptest::prelude::*;
use rstest::rstest;
use steelk_core::result::PieceResult;

use crate::common::*;

fn runs_into(p: &PieceResult) -> bool {
    p.findings.iter().any(|f| f.check == "formed_through_itself")
}

/// How near to a touch is not asked: the rule lets a tenth of a millimetre pass.
const NEAR: f64 = 0.4;

proptest! {
    #![proptest_config(ProptestConfig { cases: 80, ..ProptestConfig::default() })]

    /// Two lips turned inwards on one height meet in the middle: they lie in one another where both together
    /// are longer than the web between them.
    #[test]
    fn lips_of_a_c_section(web in 60.0f64..160.0, wall in 25.0f64..70.0, left in 10.0f64..120.0,
        right in 10.0f64..120.0, t in 1.0f64..3.0, wide in 20.0f64..200.0, up: bool) {
        let reach = 2.5 * t;
        prop_assume!(left > 2.0 * reach && right > 2.0 * reach && wall > 2.0 * reach);
        // A lip that reaches the other wall would run into that first.
        prop_assume!(left.max(right) < web - t - NEAR);
        let deep = left + right - web;
        prop_assume!(deep.abs() > NEAR);
        let way = if up { "up" } else { "down" };
        let text = format!(
            "strip {left:.3} {way} 90 {wall:.3} {way} 90 {web:.3} {way} 90 {wall:.3} {way} 90 {right:.3} \
             wide {wide:.1}"
        );
        let p = made(k_factor("0.42"), &piece(&format!("{t:.3}"), &format!("{t:.3}"), &[&text]));
        prop_assert!(p.made, "{:?}", p.faults);
        prop_assert_eq!(runs_into(&p), deep > 0.0, "{} past one another: {}", deep, text);
    }

    /// A fourth leg comes down upon the first: it lies in it where it is longer than the way down to its
    /// upper face, and passes beside it where the first is too short to be met.
    #[test]
    fn a_leg_that_comes_down_on_the_first(first in 20.0f64..160.0, second in 40.0f64..90.0,
        third in 30.0f64..150.0, fourth in 15.0f64..110.0, t in 1.0f64..3.0) {
        let reach = 2.5 * t;
        prop_assume!(third > 2.0 * reach && first > 2.0 * reach && fourth > 2.0 * reach);
        // Outside faces: the fourth lies `third` back from the second. Across, the first reaches `first` back
        // from it; the fourth stands between `third - t` and `third`.
        let over = first - (third - t);
        // Down, the fourth ends `second - fourth` over the outside of the first, whose metal is `t` high.
        let down = fourth - (second - t);
        prop_assume!(over.abs() > NEAR && down.abs() > NEAR);
        let text =
            format!("strip {first:.3} up 90 {second:.3} up 90 {third:.3} up 90 {fourth:.3} wide 40");
        let p = made(k_factor("0.42"), &piece(&format!("{t:.3}"), &format!("{t:.3}"), &[&text]));
        prop_assert!(p.made, "{:?}", p.faults);
        prop_assert_eq!(runs_into(&p), over > 0.0 && down > 0.0, "{} over, {} down: {}", over, down, text);
    }
}

/// The same lips by folds on a plate told in inches: folded it is as wide outside as it was told, 3 3/4 in,
/// so lips meet at 1 7/8 in.
#[rstest]
#[case("1.85", false)]
#[case("1.9", true)]
fn lips_by_folds_in_inches(#[case] lip: &str, #[case] runs: bool) {
    let tip = |side: &str| format!("fold fold-1.{side}.tip up 90 {lip}in");
    let texts = ["plate 3.75in x 4in", "fold east west up 90 1.5in", &tip("east"), &tip("west")];
    let r = made(k_factor("0.42"), &piece("2", "2", &texts));
    assert!(r.made && r.faults.is_empty(), "{:?}", r.faults);
    let across = r.value("formed_x").min(r.value("formed_y"));
    assert!((across - 3.75 * 25.4).abs() < 0.1, "{across}");
    assert_eq!(runs_into(&r), runs, "{:?}", r.findings.iter().map(|f| &f.message).collect::<Vec<_>>());
}
