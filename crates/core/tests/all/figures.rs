//! Named figures with a kind and a range, what depends on them, and the variants of a job.

use rstest::rstest;
use steelk_core::evaluate::{evaluate, figure_uses, in_variant, variants};
use steelk_core::job::text::{print_job, read_job};
use steelk_core::job::*;
use steelk_core::quantity::{Display, Figure, FigureKind, FigureTable, LengthUnit};

use crate::common::*;

fn figure(name: &str, value: &str, kind: FigureKind, least: &str, most: &str) -> Figure {
    Figure { kind, least: least.into(), most: most.into(), ..Figure::new(name, value) }
}

/// A bracket whose height and angle are figures.
fn bracket(value: &str) -> Job {
    let mut out = job(Default::default());
    out.pieces =
        vec![piece("3", "3", &["strip 50 wide: height, up lean, 2*height - 10", "hole ⌀9, gap from west"])];
    out.figures = vec![
        figure("height", value, FigureKind::Length, "20", "120"),
        figure("lean", "75", FigureKind::Angle, "30°", "90°"),
        figure("gap", "height / 4", FigureKind::Any, "", ""),
        figure("unused", "2", FigureKind::Count, "1", "5"),
    ];
    out
}

#[rstest]
#[case("60", "", None)]
#[case("12", "12 is below its least, 20", None)]
#[case("5in", "5in is above its most, 120", None)]
#[case("4in", "", Some("101.6 mm"))]
#[case("60°", "an angle stands where a length belongs", None)]
fn a_figure_keeps_its_kind_and_its_range(
    #[case] value: &str,
    #[case] said: &str,
    #[case] text: Option<&str>,
) {
    let r = evaluate(&bracket(value));
    let own = &r.figures[0];
    assert_eq!(own.fault.as_ref().map_or(String::new(), |f| f.message.clone()), said);
    assert_eq!(r.pieces[0].made, said.is_empty());
    if let Some(text) = text {
        assert_eq!(own.text, text);
    }
}

/// A count is whole, a ratio is plain, and what leans on a figure of a kind has its kind.
#[test]
fn counts_and_ratios() {
    let all = |figures: &[Figure], unit| FigureTable::new(figures, unit);
    let t = all(
        &[
            figure("n", "2.5", FigureKind::Count, "", ""),
            figure("s", "0.5", FigureKind::Ratio, "0", "1"),
            figure("s2", "40 mm", FigureKind::Ratio, "", ""),
            figure("l", "2", FigureKind::Length, "", ""),
        ],
        LengthUnit::In,
    );
    assert!(t.at(0).unwrap_err().message.contains("whole"));
    assert_eq!(t.at(1).unwrap().v, 0.5);
    assert!(t.at(2).unwrap_err().message.contains("a length stands where a plain number belongs"));
    assert_eq!(t.at(3).unwrap().v, 50.8);
    // The most a slider goes by: its range in what it is typed in, a sixteenth of an inch at a time.
    let t = all(&[figure("l", "2", FigureKind::Length, "1", "38.1mm")], LengthUnit::In);
    assert!(t.at(0).unwrap_err().message.contains("above its most"));
    let t = all(&[figure("l", "1.25", FigureKind::Length, "1", "38.1mm")], LengthUnit::In);
    let slider = t.all(|v| v.v.to_string())[0].slider.unwrap();
    assert!((slider.least - 1.0).abs() < 1e-12 && (slider.most - 1.5).abs() < 1e-12, "{slider:?}");
    assert_eq!((slider.value, slider.step), (1.25, 0.0625));
}

/// A length where an angle belongs: refused where it is used, with the figure named, and told beside the
/// figure with the place.
#[test]
fn a_length_where_an_angle_belongs_names_both_places() {
    let mut job = bracket("60");
    job.pieces[0].lines[0] = lines(&["strip 50 wide: height, up height, 40"])[0].clone();
    let r = evaluate(&job);
    let fault = &r.pieces[0].faults[0];
    assert_eq!(fault.fault.message, "a length stands where an angle belongs: the figure height is one");
    let uses = figure_uses(&job, &r);
    let refused: Vec<_> = uses[0].uses.iter().filter(|u| !u.refused.is_empty()).collect();
    assert_eq!(refused.len(), 1, "{uses:?}");
    assert_eq!((refused[0].mark.as_str(), refused[0].line.as_str()), ("P-1", "start-1"));
    assert_eq!(refused[0].path, fault.path);
}

#[test]
fn what_depends_on_a_figure_is_listed() {
    let job = bracket("60");
    let uses = figure_uses(&job, &evaluate(&job));
    let of = |name: &str| uses.iter().find(|u| u.name == name).unwrap();
    let texts = |name: &str| of(name).uses.iter().map(|u| u.text.clone()).collect::<Vec<_>>();
    assert_eq!(texts("height"), ["height", "2*height - 10", "gap"]);
    assert_eq!(of("height").figures, ["gap"]);
    assert_eq!(texts("lean"), ["lean"]);
    assert_eq!((texts("unused").len(), of("unused").figures.len()), (0, 0));
    assert!(of("height").uses.iter().all(|u| u.refused.is_empty()));
}

/// Two legs of the bracket's flat: the sizes follow by hand, each variant by its own figures.
#[test]
fn variants_are_the_job_with_other_figures() {
    let mut job = bracket("60");
    let value = |figure: &str, value: &str| VariantValue { figure: figure.into(), value: value.into() };
    job.variants = vec![
        Variant { name: "high".into(), values: vec![value("height", "100"), value("lean", "90")] },
        Variant { name: "steep".into(), values: vec![value("lean", "100")] },
        Variant { name: "lost".into(), values: vec![value("heigth", "100")] },
    ];
    let rows = variants(&job);
    assert_eq!(rows.iter().map(|r| r.name.as_str()).collect::<Vec<_>>(), ["", "high", "steep", "lost"]);
    let length = |j: &Job| evaluate(j).pieces[0].value("flat_length");
    let mut by_hand = job.clone();
    by_hand.figures[0].value = "100".into();
    by_hand.figures[1].value = "90".into();
    let (made, result) = in_variant(&job, &job.variants[0]).unwrap();
    assert_eq!(result.pieces[0].value("flat_length"), length(&by_hand));
    assert_eq!(made.figures, by_hand.figures);
    // 290 of legs less one deduction of DIN 6935 at 90°: more than twice the legs of 170.
    assert!(rows[1].pieces[0].size.starts_with(&Display::default().length(length(&by_hand))), "{rows:?}");
    assert_ne!(rows[0].pieces[0].size, rows[1].pieces[0].size);
    // Out of its range, and a figure that is none: told, the others stand.
    assert!(!rows[2].pieces[0].made && rows[2].trouble.contains("above its most"), "{:?}", rows[2]);
    assert!(rows[3].pieces.is_empty() && rows[3].trouble.contains("no figure 'heigth'"), "{:?}", rows[3]);
    // The text keeps them, with kinds and ranges.
    let (again, faults) = read_job(&print_job(&job));
    assert!(faults.is_empty(), "{faults:?}");
    assert_eq!((again.variants, again.figures), (job.variants.clone(), job.figures.clone()));
}

/// Two readings of a printed template are a printer's true scale, in mm and in inches; a slip is told at its
/// field.
#[test]
fn a_printer_is_what_it_makes_of_two_lines() {
    let mut job = job(Default::default());
    let printer = |short: &str, long: &str| Printer {
        name: "Office".into(),
        short: short.into(),
        long: long.into(),
        ..Printer::default()
    };
    job.printers = vec![printer("98.5", "99.2")];
    let r = evaluate(&job);
    let scale = |j: &Job| j.printer("Office", &FigureTable::new(&[], j.display.length));
    let of = scale(&job).unwrap().unwrap();
    assert!((of.short - 0.985).abs() < 1e-12 && (of.long - 0.992).abs() < 1e-12, "{of:?}");
    assert!(r.faults.is_empty());
    assert_eq!(job.printer("", &FigureTable::default()), Ok(None));
    assert!(job.printer("Attic", &FigureTable::default()).unwrap_err().contains("no printer 'Attic'"));
    job.display.length = LengthUnit::In;
    job.printers = vec![printer("3 15/16", "4")];
    assert!((scale(&job).unwrap().unwrap().short - 63.0 / 64.0).abs() < 1e-12);
    job.printers = vec![printer("2", "4")];
    let faults = evaluate(&job).faults;
    assert_eq!(faults[0].path, "/printers/0/short");
    assert!(scale(&job).unwrap_err().contains("within 10 %"));
    let (again, told) = read_job(&print_job(&job));
    assert!(told.is_empty(), "{told:?}");
    assert_eq!(again.printers, job.printers);
}

/// A bare value beside a bound with a unit, and the other way round, are held to one another in one unit.
#[test]
fn a_bare_value_is_held_to_a_bound_with_a_unit() {
    let at = |value: &str, least: &str, most: &str| {
        let of = [figure("f", value, FigureKind::Any, least, most)];
        FigureTable::new(&of, LengthUnit::In).all(|v| v.v.to_string()).remove(0)
    };
    for (value, least, most) in
        [("10", "8in", "300mm"), ("10in", "8", "12"), ("45", "30°", "60°"), ("45°", "30", "60")]
    {
        let of = at(value, least, most);
        assert_eq!(of.fault, None, "{value} from {least} to {most}");
    }
    let slider = at("10", "8in", "304.8mm").slider.unwrap();
    assert!(
        (slider.value - 10.0).abs() + (slider.least - 8.0).abs() + (slider.most - 12.0).abs() < 1e-9,
        "{slider:?}"
    );
    assert!(at("13", "8in", "12in").fault.unwrap().message.contains("13 is above its most"));
    assert!(at("10", "8in", "60°").fault.unwrap().message.starts_with("its most: "));
    assert!(at("10in", "8", "60°").fault.unwrap().message.starts_with("its most: "));
}

/// A figure may be called as a word of a sentence is: by another name its uses follow, and the word stays,
/// though the new name be a word of that sentence too.
#[rstest]
#[case("rim")]
#[case("north_south")]
fn a_figure_called_like_a_word_is_told_from_it(#[case] to: &str) {
    let (mut job, frame) = crate::common::frame::told(
        "40x40x3",
        JointHow::Butt,
        &[
            "hopper 100 x 200 to 500 x 400, 300 high, 5 thick, but south-east edge to edge",
            "hopper 200 x 200 to 500 x 400, 300 high, 5 thick, north and south over",
        ],
    );
    job.figures = vec![Figure::new("edge", "3")];
    job.frames = vec![frame];
    let FrameOperation::Hopper(said) = &mut job.frames[0].lines[0].say else { panic!("hopper") };
    (said.bottom_x, said.gap, said.but[0].gap) = ("edge*2".into(), "edge".into(), "edge/2".into());
    let named = rename(&job, Renamed::Figure, "edge", to).unwrap();
    let FrameOperation::Hopper(said) = &named.frames[0].lines[0].say else { panic!("hopper") };
    assert_eq!([&said.bottom_x, &said.gap, &said.but[0].gap], [&format!("{to}*2"), to, &format!("{to}/2")]);
    assert_eq!((said.corners, said.but[0].how), (HopperCorners::Edge, HopperCorners::Edge));
    let FrameOperation::Hopper(other) = &named.frames[0].lines[1].say else { panic!("hopper") };
    assert_eq!(other.corners, HopperCorners::NorthSouth);
    assert_eq!(named.figures[0].name, to);
}

/// A figure by another name keeps its variants; what a variant takes is what the core says.
#[test]
fn a_figure_by_another_name_keeps_its_variants() {
    let mut job = bracket("60");
    let values = vec![VariantValue { figure: "height".into(), value: "lean / 1° + height".into() }];
    job.variants = vec![Variant { name: "v".into(), values }];
    let named = rename(&job, Renamed::Figure, "height", "rise").unwrap();
    assert_eq!(
        (named.variants[0].values[0].figure.as_str(), named.variants[0].values[0].value.as_str()),
        ("rise", "lean / 1° + rise")
    );
    let rows = variants(&named);
    assert!(rows[0].take.is_empty());
    let taken: Vec<(&str, &str)> =
        rows[1].take.iter().map(|p| (p.path.as_str(), p.value.as_str().unwrap())).collect();
    assert_eq!(taken, [("/figures/0/value", "lean / 1° + rise")]);
    // The job's own settings use figures as well.
    let mut job = bracket("60");
    job.stock = vec![StockSheet { length: "20*height".into(), width: "1250".into() }];
    let uses = figure_uses(&job, &evaluate(&job));
    assert!(uses[0].uses.iter().any(|u| u.mark.is_empty() && u.text == "20*height"), "{uses:?}");
}
