//! Values as a shop writes them: read, refused with the place of the fault, and printed.

use approx::assert_abs_diff_eq;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::quantity::{
    Display, Fault, Figure, FigureTable, InchStyle, LengthUnit, PieceNames, Printed, Scope, Shown, parse,
    summed,
};

fn figures() -> Vec<Figure> {
    let f = |name: &str, value: &str| Figure::new(name, value);
    vec![
        f("pitch", "40"),
        f("ply", "3/4in"),
        f("twice", "2*pitch"),
        f("tilt", "30deg"),
        f("loop_a", "loop_b + 1"),
        f("loop_b", "loop_a"),
        f("bad", "1 +"),
    ]
}

fn read<T>(unit: LengthUnit, ask: impl Fn(&Scope) -> Result<T, Fault>) -> Result<T, Fault> {
    let figures = figures();
    let table = FigureTable::new(&figures, unit);
    let names = PieceNames { table: &table, t: Some(2.0), r: Some(3.0) };
    ask(&Scope { unit, names: &names })
}

fn length(unit: LengthUnit, text: &str) -> Result<f64, Fault> {
    read(unit, |s| s.length(text))
}

#[rstest]
#[case("40", 40.0)]
#[case("40mm", 40.0)]
#[case("4.5 cm", 45.0)]
#[case("1.2m", 1200.0)]
#[case("1in", 25.4)]
#[case("1 1/2in", 38.1)]
#[case("1/2in", 12.7)]
#[case("1/2 in", 12.7)]
#[case("3 1/4", 3.25)]
#[case("10/4", 2.5)]
#[case("5'-3 1/4\"", 5.0 * 304.8 + 3.25 * 25.4)]
#[case("5' 3\"", 5.0 * 304.8 + 3.0 * 25.4)]
#[case("6ft", 1828.8)]
#[case("5in - 10", 117.0)]
#[case("2*t + 0.5", 4.5)]
#[case("r/2", 1.5)]
#[case("(pitch + ply) / 2", (40.0 + 19.05) / 2.0)]
#[case("twice", 80.0)]
#[case("sqrt(30^2 + 40^2)", 50.0)]
#[case("sqrt((30mm)^2 + (40mm)^2)", 50.0)]
#[case("100*sin(30)", 50.0)]
#[case("100mm*cos(60°)", 50.0)]
#[case("100*tan(45deg)", 100.0)]
#[case("min(40, 1in, 60)", 25.4)]
#[case("max(t, 1)", 2.0)]
#[case("round(41.3)", 41.0)]
#[case("round(41.3, 0.5)", 41.5)]
#[case("abs(-7)", 7.0)]
#[case("-(3 - 10)", 7.0)]
#[case("pi*10", 10.0 * std::f64::consts::PI)]
#[case("1e2", 100.0)]
#[case("3 × 4", 12.0)]
fn lengths_in_mm(#[case] text: &str, #[case] mm: f64) {
    assert_abs_diff_eq!(length(LengthUnit::Mm, text).unwrap(), mm, epsilon = 1e-9);
}

#[rstest]
#[case("1 1/2", 38.1)]
#[case("1/2 + 10mm", 12.7 + 10.0)]
#[case("40mm", 40.0)]
#[case("2*t", 4.0)]
fn bare_numbers_take_the_jobs_unit(#[case] text: &str, #[case] mm: f64) {
    assert_abs_diff_eq!(length(LengthUnit::In, text).unwrap(), mm, epsilon = 1e-9);
}

#[rstest]
#[case("90", 90.0)]
#[case("90°", 90.0)]
#[case("12°30'", 12.5)]
#[case("12°30'36\"", 12.51)]
#[case("1.5707963267948966rad", 90.0)]
#[case("atan2(10, 10mm)", 45.0)]
#[case("180 - tilt", 150.0)]
#[case("asin(0.5)", 30.0)]
fn angles(#[case] text: &str, #[case] degrees: f64) {
    assert_abs_diff_eq!(
        read(LengthUnit::Mm, |s| s.angle(text)).unwrap().to_degrees(),
        degrees,
        epsilon = 1e-9
    );
}

/// PS 20 for dry softwood, NHLA for hardwood planed on two faces (both from memory), in sixteenths of an
/// inch.
#[rstest]
#[case("board(1)", 12.0)]
#[case("board(1 1/4)", 16.0)]
#[case("board(2)", 24.0)]
#[case("board(4)", 56.0)]
#[case("board(6)", 88.0)]
#[case("board(8)", 116.0)]
#[case("board(10)", 148.0)]
#[case("board(12)", 180.0)]
#[case("2*board(6) - board(2)", 152.0)]
#[case("quarters(4)", 13.0)]
#[case("quarters(5)", 17.0)]
#[case("quarters(8)", 28.0)]
fn boards_are_what_is_left_of_them(#[case] text: &str, #[case] sixteenths: f64) {
    for unit in [LengthUnit::Mm, LengthUnit::In] {
        assert_abs_diff_eq!(length(unit, text).unwrap(), sixteenths / 16.0 * 25.4, epsilon = 1e-9);
    }
}

/// Each fault points at the characters that are wrong.
#[rstest]
#[case("", "empty", 0, 0)]
#[case("40 + ply2", "nothing is called 'ply2'", 5, 9)]
#[case("90deg", "an angle stands where a length belongs", 0, 5)]
#[case("40 * 2mm", "", 0, 0)]
#[case("10 + tilt", "an angle stands where a length belongs", 0, 9)]
#[case("10mm + tilt", "cannot be put together", 0, 11)]
#[case("10mm * 3mm", "an area stands where a length belongs", 0, 10)]
#[case("1/0", "divides by zero", 0, 3)]
#[case("4 $ 5", "'$' has no meaning", 2, 3)]
#[case("(4 + 5", "not closed", 5, 6)]
#[case("4 5", "does not belong here", 2, 3)]
#[case("loop_a", "leads back to itself", 0, 6)]
#[case("bad", "the figure 'bad' has no value", 0, 3)]
#[case("sin()", "no value in its brackets", 0, 5)]
#[case("hypot(3, 4)", "no function is called 'hypot'", 0, 11)]
#[case("atan2(1)", "takes 2 value(s)", 0, 8)]
#[case("mm", "has no number before it", 0, 2)]
#[case("1e999", "too large", 0, 5)]
#[case("board(2.25)", "no softwood board", 6, 10)]
#[case("2 + board(2in)", "a length stands where a plain number", 10, 13)]
#[case("quarters(9)", "no hardwood board", 9, 10)]
#[case("sqrt(-1)", "no finite value", 0, 8)]
fn faults_point(#[case] text: &str, #[case] message: &str, #[case] start: usize, #[case] end: usize) {
    match length(LengthUnit::Mm, text) {
        Ok(v) => assert!(message.is_empty(), "{text} gave {v}"),
        Err(f) => {
            assert!(!message.is_empty() && f.message.contains(message), "{text}: {}", f.message);
            assert_eq!((f.start, f.end), (start, end), "{text}: {}", f.message);
            assert!(!f.mend.is_empty());
        }
    }
}

#[test]
fn a_length_is_no_angle_and_no_number() {
    assert!(
        read(LengthUnit::Mm, |s| s.angle("40mm"))
            .unwrap_err()
            .message
            .contains("a length stands where an angle belongs")
    );
    assert!(read(LengthUnit::Mm, |s| s.number("40mm")).unwrap_err().message.contains("plain number"));
    assert_eq!(read(LengthUnit::Mm, |s| s.number("40mm / 20mm")).unwrap(), 2.0);
    assert!(read(LengthUnit::Mm, |s| s.count("2.5", 1, 10)).unwrap_err().message.contains("whole"));
    assert!(
        read(LengthUnit::Mm, |s| s.count("1000000", 1, 200_000)).unwrap_err().message.contains("outside")
    );
}

#[rstest]
#[case(InchStyle::Decimal, 38.1, "1.500")]
#[case(InchStyle::Sixteenths, 38.1, "1 1/2")]
#[case(InchStyle::SixtyFourths, 7.14375, "9/32")]
#[case(InchStyle::ThirtySeconds, 25.0, "31/32")]
#[case(InchStyle::Sixteenths, 25.39, "1")]
#[case(InchStyle::Sixteenths, -3.175, "-1/8")]
fn inches_print(#[case] inches: InchStyle, #[case] mm: f64, #[case] text: &str) {
    assert_eq!(Display { length: LengthUnit::In, inches }.length(mm), text);
}

#[test]
fn millimetres_print_to_a_tenth() {
    let d = Display::default();
    assert_eq!(
        (d.length(96.1628).as_str(), d.fine(96.1628).as_str(), d.length(-0.00001).as_str()),
        ("96.2", "96.163", "0.0")
    );
    assert_eq!(
        (d.angle(1.0).as_str(), d.mass(0.4567).as_str(), d.mass(25.0).as_str()),
        ("57.3°", "0.457 kg", "25.00 kg")
    );
}

proptest! {
    /// No text makes it panic, hang or give a value that is not finite.
    #[test]
    fn any_text_is_read_or_refused(text in "\\PC{0,60}") {
        if let Ok(v) = length(LengthUnit::In, &text) {
            prop_assert!(v.is_finite());
        }
    }

    #[test]
    fn any_shop_text_is_read_or_refused(text in "[0-9a-z /+*().,'\"°^-]{0,40}") {
        for result in [length(LengthUnit::Mm, &text), read(LengthUnit::In, |s| s.angle(&text))] {
            match result {
                Ok(v) => prop_assert!(v.is_finite()),
                Err(f) => {
                    prop_assert!(f.start <= f.end && f.end <= text.chars().count());
                    prop_assert!(!f.message.is_empty());
                }
            }
        }
    }

    /// What is printed to be typed gives the length back.
    #[test]
    fn typed_goes_round(mm in 0.001..5000.0f64) {
        for (unit, off) in [(LengthUnit::Mm, 5e-4), (LengthUnit::In, 2e-4)] {
            let text = Display { length: unit, inches: InchStyle::Decimal }.typed(mm);
            prop_assert!((length(unit, &text).unwrap() - mm).abs() <= off, "{mm} {text}");
        }
    }

    #[test]
    fn fractions_are_nearest(mm in 0.0..2000.0f64) {
        let d = Display { length: LengthUnit::In, inches: InchStyle::SixtyFourths };
        let back = length(LengthUnit::In, &d.length(mm)).unwrap();
        prop_assert!((back - mm).abs() <= 25.4 / 128.0 + 1e-9);
    }
}

#[test]
fn depth_and_length_are_bounded() {
    let deep = format!("{}1{}", "(".repeat(180), ")".repeat(180));
    assert!(length(LengthUnit::Mm, &deep).unwrap_err().message.contains("too many brackets"));
    assert!(length(LengthUnit::Mm, &"-".repeat(300)).is_err());
    assert!(length(LengthUnit::Mm, &"1+".repeat(400)).unwrap_err().message.contains("characters long"));
    let chain: Vec<Figure> =
        (0..500).map(|i| Figure::new(format!("f{i}"), format!("f{} + 1", i + 1))).collect();
    let table = FigureTable::new(&chain, LengthUnit::Mm);
    assert!(table.at(0).unwrap_err().message.contains("lean on one another"));
}

#[test]
fn figures_with_bad_names_say_so() {
    let f = |name: &str| Figure::new(name, "1");
    let list = [f("t"), f("2wide"), f("mm"), f("ok"), f("ok")];
    let table = FigureTable::new(&list, LengthUnit::Mm);
    for i in [0, 1, 2, 4] {
        assert!(table.at(i).is_err(), "{}", list[i].name);
    }
    assert_eq!(table.at(3).unwrap().v, 1.0);
}

/// A hyphen as drawings write it is asked about; what can only be one thing is not.
#[test]
fn a_hyphen_between_whole_inches_and_a_fraction_is_asked_about() {
    for text in ["10-1/4\"", "10-1/4in", "2+10-3/8\""] {
        let fault = parse(text).expect_err(text);
        assert!(fault.message.contains("less"), "{}", fault.message);
        assert!(fault.mend.contains("1/4") || fault.mend.contains("3/8"), "{}", fault.mend);
    }
    for text in
        ["10 - 1/4\"", "10 1/4\"", "10in-1/4in", "5'-3 1/4\"", "10-2", "10.5-1/4\"", "x-1/4\"", "10-3\""]
    {
        assert!(parse(text).is_ok(), "{text}");
    }
}

/// A printed number as a hand reads it: digits with a point, or whole inches and a fraction.
fn by_hand(text: &str) -> f64 {
    let (minus, text) = text.strip_prefix('-').map_or((false, text), |t| (true, t));
    let part = |t: &str| match t.split_once('/') {
        Some((top, bottom)) => top.parse::<f64>().unwrap() / bottom.parse::<f64>().unwrap(),
        None => t.parse().unwrap(),
    };
    let v: f64 = text.split(' ').map(part).sum();
    if minus { -v } else { v }
}

proptest! {
    /// What a spreadsheet gets is the number that a hand reads off the list, and says how it is written.
    #[test]
    fn printed_numbers_are_what_they_read(mm in -20_000.0..20_000.0f64, inch in any::<bool>(),
        style in 0..4usize) {
        let inches =
            [InchStyle::Decimal, InchStyle::Sixteenths, InchStyle::ThirtySeconds,
                InchStyle::SixtyFourths][style];
        let d = Display { length: if inch { LengthUnit::In } else { LengthUnit::Mm }, inches };
        let kg = mm.abs() / 7.0;
        for n in [d.length_number(mm), d.thickness_number(mm.abs()), d.brief_number(mm), d.mass_number(kg)] {
            let (v, shown) = n.number().unwrap();
            prop_assert!((v - by_hand(&n)).abs() <= 1e-12 * v.abs(), "{n}: {v}");
            match shown {
                Shown::Fraction(parts) => prop_assert_eq!(n.rsplit_once('/').unwrap().1, parts.to_string()),
                Shown::Decimals(k) => prop_assert_eq!(n.split_once('.').map_or(0, |(_, d)| d.len()), k),
                Shown::Degrees => prop_assert!(false),
            }
        }
        let turn = Printed::degrees(mm / 1000.0, 2);
        prop_assert!((turn.value() - by_hand(turn.strip_suffix('°').unwrap())).abs() < 1e-12);
    }
}

/// Words are no numbers, whatever they look like; the total is the sum of what the rows say.
#[test]
fn words_are_no_numbers() {
    for text in ["", "1E5", "2 × 45°", "PF-080", "16 ga (0.0598)", "12"] {
        assert_eq!(Printed::words(text).number(), None, "{text}");
    }
    let d = Display::default();
    let rows = [d.mass_number(1.0004), d.mass_number(2.0004), d.mass_number(3.0004)];
    assert_eq!(summed(rows.iter()), "6");
}
