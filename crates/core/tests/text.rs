//! A job as a text: what is printed is read back as the same job, and what does not read is told where it
//! stands.

use steelk_core::evaluate::evaluate;
use steelk_core::job::text::{print_frame, print_job, print_piece, read_frame, read_job, read_piece};
use steelk_core::job::{Frame, Job};

/// Without what a text does not tell: numbers of ids that are gone, and what is told and says nothing.
fn bare(mut job: Job) -> Job {
    job.issued.clear();
    job.pieces.iter_mut().for_each(|p| p.issued.clear());
    job.frames.iter_mut().for_each(|f| f.issued.clear());
    job.pieces.iter_mut().for_each(|p| p.tracing = None);
    job.archive.pieces.iter_mut().for_each(|p| p.issued.clear());
    job.archive.frames.iter_mut().for_each(|f| f.issued.clear());
    job
}

fn same(job: Job) {
    let text = print_job(&job);
    let (read, faults) = read_job(&text);
    assert!(faults.is_empty(), "{faults:?}\n{text}");
    let (was, is) = (serde_json::to_value(bare(job)).unwrap(), serde_json::to_value(bare(read)).unwrap());
    for (key, value) in was.as_object().unwrap() {
        if let (Some(a), Some(b)) = (value.as_array(), is[key].as_array()) {
            assert_eq!(a.len(), b.len(), "{key}");
            a.iter().zip(b).for_each(|(a, b)| assert_eq!(a, b, "{key}"));
        }
        assert_eq!(&is[key], value, "{key}");
    }
    assert_eq!(is, was);
    assert_eq!(print_job(&read_job(&text).0), text);
}

fn sample() -> Job {
    serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap()
}

#[test]
fn the_sample_job_is_its_text() {
    same(sample());
}

#[test]
fn a_job_with_every_verb_is_its_text() {
    same(serde_json::from_str(include_str!("golden/verbs-job.json")).unwrap());
    let frame: Frame = serde_json::from_str(include_str!("all/all-verbs.json")).unwrap();
    same(Job { frames: vec![frame], ..sample() });
}

#[test]
fn every_setting_is_told() {
    let job = include_str!("golden/every-setting.json");
    same(serde_json::from_str(job).unwrap());
}

#[test]
fn the_text_of_the_sample_comes_to_the_same_figures() {
    let (job, _) = read_job(&print_job(&sample()));
    let (was, is) = (evaluate(&sample()), evaluate(&job));
    for (a, b) in was.pieces.iter().zip(&is.pieces) {
        let of = |p: &steelk_core::result::PieceResult| {
            p.figures.iter().map(|f| (f.key.clone(), f.value)).collect::<Vec<_>>()
        };
        assert_eq!(of(a), of(b), "{}", a.mark);
    }
}

#[test]
fn one_piece_and_one_frame_are_read_alone() {
    let job = sample();
    for p in &job.pieces {
        let (read, faults) = read_piece(&print_piece(p, false));
        assert!(faults.is_empty(), "{faults:?}");
        assert_eq!(read.unwrap().lines.len(), p.lines.len());
    }
    let (read, faults) = read_frame(&print_frame(&job.frames[0], false));
    assert!(faults.is_empty(), "{faults:?}");
    assert_eq!(read.unwrap().rows, job.frames[0].rows);
}

#[test]
fn what_does_not_read_is_told_with_its_line_and_the_rest_goes_on() {
    let text = "job \"x\"\nfigure bolt = 9\n\n\
        piece P-1 \"Plate\", 2 thick s235\n\x20 plate 100 x 60\n\x20 hloe ⌀9\n\x20 off round 5 -- no need\n\n\
        plant tree\n\
        frame F-1 \"F\", of SHS 60x60x3, material s235\n\x20 node A 0, 0\n";
    let (job, faults) = read_job(text);
    let at: Vec<(usize, usize)> = faults.iter().map(|f| (f.line, f.fault.start)).collect();
    assert_eq!(at, [(6, 2), (9, 0), (11, 13)], "{faults:?}");
    assert_eq!(
        (job.pieces[0].lines.len(), job.pieces[0].lines[1].off, job.pieces[0].lines[1].note.as_str()),
        (2, true, "no need")
    );
    assert_eq!(
        (job.pieces[0].quantity.as_str(), job.pieces[0].id.as_str(), job.frames.len()),
        ("1", "piece-1", 1)
    );
    let (none, faults) = read_piece("plate 100 x 60");
    assert!(none.is_none() && !faults.is_empty());
    assert!(read_job("piece").1[0].fault.message.contains("missing"));
}

/// Long texts are read in time that grows with them, and what is more than can be read is told.
#[test]
fn a_text_that_is_too_long_is_told_and_a_long_profile_is_read() {
    let holes = "  hole ⌀9\n".repeat(6000);
    let (piece, faults) = read_piece(&format!("piece P-1 \"x\", 2 thick s235\n  plate 10 x 10\n{holes}"));
    assert_eq!((piece.unwrap().lines.len(), faults.len()), (5000, 1));
    assert!(faults[0].fault.message.contains("5000") && faults[0].line == 5002, "{:?}", faults[0]);
    let legs = "1 ".repeat(20_000);
    let (piece, faults) = read_piece(&format!("piece P-1 \"x\", 2 thick s235\n  strip 9 wide: {legs}"));
    assert!(faults.is_empty());
    let steelk_core::job::Operation::StartStrip(strip) = &piece.unwrap().lines[0].say else { panic!() };
    assert_eq!((strip.profile.len(), strip.profile[26].id()), (20_000, "a1"));
}

/// A line may be called like a setting.
#[test]
fn what_is_archived_is_told_as_that_and_neither_made_nor_counted() {
    let mut job = sample();
    let before = evaluate(&job);
    let (hat, frame) = (job.pieces.remove(1), job.frames.remove(0));
    job.archive.pieces.push(hat.clone());
    job.archive.frames.push(frame);
    let text = print_job(&job);
    assert!(text.contains("piece P-102") && text.contains("archived"), "{text}");
    same(job.clone());
    let after = evaluate(&job);
    assert_eq!(after.pieces.len() + 1, before.pieces.len());
    assert_eq!(after.frames.len() + 1, before.frames.len());
    let gone = before.pieces[1].value("mass") * before.pieces[1].quantity as f64 + before.frames[0].mass();
    assert!((before.mass() - after.mass() - gone).abs() < 1e-9);
    // Two with one id and none: each gets its own, and stays where it is.
    let (job, faults) = read_job(
        "piece P-1 \"a\", 2 thick s235\n  plate 30 x 20\npiece P-2 \"b\", 2 thick s235, archived\n\
        \x20 plate 30 x 20\n",
    );
    assert!(faults.is_empty(), "{faults:?}");
    assert_eq!((job.pieces[0].id.as_str(), job.archive.pieces[0].id.as_str()), ("piece-1", "piece-2"));
}

#[test]
fn groups_stand_over_their_lines_and_one_without_lines_is_told() {
    let text = "piece P-1 \"lid\", 2 thick s235\n  plate 300 x 200\n  == Holes of the rim -- north\n\
    \x20 hole 5\n  repeat 3 x 20\n  \
                == Rim\n  fold nowhere 1 2 3\n  fold north 20\n";
    let (job, faults) = read_job(text);
    let groups: Vec<&str> = job.pieces[0].lines.iter().map(|l| l.group.as_str()).collect();
    // A line that does not read leaves its group to the next.
    assert_eq!(groups, ["", "Holes of the rim -- north", "", "Rim"]);
    assert_eq!(faults.iter().map(|f| f.line).collect::<Vec<_>>(), [7]);
    let printed = print_job(&job);
    assert!(printed.contains("\n  == Holes of the rim -- north\n  hole ⌀5"), "{printed}");
    assert_eq!(read_job(&printed).0.pieces, job.pieces);
    let (job, faults) =
        read_job("piece P-1 \"lid\", 2 thick s235\n  == A\n  == B\n  plate 30 x 20\n  == C\n");
    assert_eq!(job.pieces[0].lines[0].group, "B");
    let told: Vec<String> = faults.iter().map(|f| format!("{} {}", f.line, f.fault.message)).collect();
    assert_eq!(told, ["2 no line stands under 'A'", "5 no line stands under 'C'"]);
}

#[test]
fn a_line_that_is_called_like_a_setting_is_a_line() {
    let (piece, faults) = read_piece("piece P-1 \"x\", 2 thick s235\n  plate 10 x 10\n  saw: hole ⌀2\n");
    assert!(faults.is_empty(), "{faults:?}");
    assert_eq!(piece.unwrap().lines[1].id, "saw");
}

/// What a text does not tell stands in the job file: the drawing that a piece came from, the picture that
/// it was
/// traced from, the drawing beside a brief and its pins. A text that is read has none of it, and no fault.
#[test]
fn what_a_text_does_not_tell_is_kept_by_the_job_file() {
    use steelk_core::job::{DrawingOptions, DrawingSheet, LayerUse, Origin};
    let mut job = sample();
    let options = DrawingOptions {
        layers: [("BEND".to_string(), LayerUse::FoldDown)].into(),
        joins: vec![[[0.0, 1.5], [0.25, 1.0 / 3.0]]],
        ..DrawingOptions::default()
    };
    job.pieces[0].origin =
        Some(Origin { file: "ab".repeat(32), name: "stand, rev. C.dxf".into(), part: 2, options });
    let sheet = DrawingSheet { file: "cd".repeat(32), name: "D-101.pdf".into(), page: 3, turned: 1 };
    job.briefs[0].sheet = Some(sheet);
    job.briefs[0].lines[0].pin = Some([0.25, 0.125]);
    let stored = serde_json::to_string(&job).unwrap();
    assert_eq!(serde_json::from_str::<Job>(&stored).unwrap(), job);
    let text = print_job(&job);
    assert!(!text.contains("rev. C") && !text.contains("D-101.pdf"), "{text}");
    let (read, faults) = read_job(&text);
    assert!(faults.is_empty(), "{faults:?}");
    assert!(read.pieces.iter().all(|p| p.origin.is_none() && p.tracing.is_none()));
    assert!(read.briefs.iter().all(|b| b.sheet.is_none() && b.lines.iter().all(|l| l.pin.is_none())));
    // A page and no turn need not be told.
    let plain = DrawingSheet { page: 1, turned: 0, ..job.briefs[0].sheet.clone().unwrap() };
    let said = serde_json::to_string(&plain).unwrap();
    assert!(!said.contains("page") && !said.contains("turned"), "{said}");
    assert_eq!(serde_json::from_str::<DrawingSheet>(&said).unwrap(), plain);
}
