//! Files of frames, read back by other means: the saw list, the spreadsheet, the skeleton, meshes.

use std::io::Read;

use approx::assert_relative_eq;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::cut_list;
use steelk_core::evaluate::evaluate;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::{Bar, CentrelineSegment, FrameResult, Member, whole};
use steelk_core::grammar::Context;
use steelk_core::job::{Frame, FrameLine, FrameOperation, Job};
use steelk_core::quantity::LengthUnit;
use steelk_core::verbs::read_frame_line;
use steelk_formats::{csv as lists, mesh, skeleton, xlsx};

fn demo() -> Job {
    serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap()
}

#[test]
fn the_saw_list_and_the_spreadsheet_say_what_the_list_says() {
    // The press frame alone.
    let job = Job { frames: demo().frames[..1].to_vec(), ..demo() };
    let list = cut_list(&job, &evaluate(&job));
    let bytes = lists::saw_list(&list).unwrap();
    let mut reader = csv::ReaderBuilder::new().flexible(true).from_reader(&bytes[..]);
    let head = reader.headers().unwrap().clone();
    let column =
        |name: &str| head.iter().position(|h| h.starts_with(name)).unwrap_or_else(|| panic!("{name}"));
    // Behind the rows a gap, then the job's number and title.
    let mut rows: Vec<_> = reader.records().map(Result::unwrap).collect();
    let facts = rows.split_off(list.frames[0].bars.len());
    assert!(
        facts.iter().any(|f| &f[0] == "job" && &f[1] == "J-014") && facts.iter().any(|f| &f[0] == "title"),
        "{facts:?}"
    );
    let mass: f64 = rows.iter().map(|r| r[column("total mass")].parse::<f64>().unwrap()).sum();
    let plates: f64 = list.frames[0].plates.iter().map(|p| p.total_mass.parse::<f64>().unwrap()).sum();
    assert_relative_eq!(mass + plates, 189.99, epsilon = 0.05);
    for (row, bar) in rows.iter().zip(&list.frames[0].bars) {
        assert_eq!(&row[column("length")], bar.length.as_str());
        assert_eq!(&row[column("start cut, off")], bar.cuts[0].text.as_str());
    }
    assert_eq!(&rows[0][column("part number")], "PF-080");
    let plates = lists::plate_list(&list).unwrap();
    let told = csv::ReaderBuilder::new()
        .flexible(true)
        .from_reader(&plates[..])
        .records()
        .filter(|r| r.as_ref().is_ok_and(|r| r.len() > 3))
        .count();
    assert_eq!(told, list.frames[0].plates.len());

    let mut book = zip::ZipArchive::new(std::io::Cursor::new(xlsx::cut_list(&list, 0).unwrap())).unwrap();
    let mut text = String::new();
    book.by_name("xl/worksheets/sheet1.xml").unwrap().read_to_string(&mut text).unwrap();
    // Where the pins of the press go.
    assert_eq!(&rows[0][column("drilled")], "left, both walls: 4 × Ø21 at 680.0 · 790.0 · 900.0 · 1010.0");
    // Lengths are numbers, one row a bar under the heading.
    assert_eq!(text.matches("<row ").count(), list.frames[0].bars.len() + 1);
    assert!(text.contains("<v>1450</v>"));
    // Bars, plates, welds, sheet pieces, totals.
    let mut welds = String::new();
    book.by_name("xl/worksheets/sheet3.xml").unwrap().read_to_string(&mut welds).unwrap();
    assert_eq!(welds.matches("<row ").count(), list.frames[0].welds.len() + 1);
    assert!(book.by_name("xl/worksheets/sheet5.xml").is_ok());
}

/// Numbers are numbers with the look that the list gives them, fractions and degrees too; a shop's own cells
/// stay as they were typed, whatever they look like; a fraction in a CSV does not become a day.
#[test]
fn spreadsheets_keep_what_they_are_given() {
    use steelk_core::quantity::{Display, InchStyle, LengthUnit};
    let mut job = demo();
    job.display = Display { length: LengthUnit::In, inches: InchStyle::Sixteenths };
    job.frames[0].rows[0].cells = vec!["00123".into()];
    job.frames[0].rows.push(steelk_core::job::RowSaid {
        piece: "rail-1.1".into(),
        cells: vec!["1E5".into()],
        ..Default::default()
    });
    let list = cut_list(&job, &evaluate(&job));
    let mut book = zip::ZipArchive::new(std::io::Cursor::new(xlsx::cut_list(&list, 0).unwrap())).unwrap();
    let read = |book: &mut zip::ZipArchive<_>, name: &str| {
        let mut text = String::new();
        book.by_name(name).unwrap().read_to_string(&mut text).unwrap();
        text
    };
    let bars = read(&mut book, "xl/worksheets/sheet1.xml");
    let texts = read(&mut book, "xl/sharedStrings.xml");
    let styles = read(&mut book, "xl/styles.xml");
    assert!(
        texts.contains("<t>00123</t>") && !bars.contains("<v>123</v>") && !bars.contains("<v>100000</v>")
    );
    assert!(styles.contains("# ??/??") && styles.contains("°"), "{styles}");
    // Every length is a number, and the one that is printed.
    for b in &list.frames[0].bars {
        let (v, _) = b.length.number().unwrap_or_else(|| panic!("{}", b.length));
        assert!(bars.contains(&format!("<v>{v}</v>")), "{} {v}", b.length);
    }
    assert!(!texts.contains(&format!("<t>{}</t>", list.frames[0].bars[0].length)));
    let csv = String::from_utf8(lists::cut_list(&list).unwrap()).unwrap();
    let fields: Vec<&str> = csv.lines().flat_map(|l| l.split(',')).collect();
    let day = |f: &&&str| {
        f.split_once('/').is_some_and(|(a, b)| a.parse::<u32>().is_ok() && b.parse::<u32>().is_ok())
    };
    assert!(!fields.iter().any(|f| day(&f)), "{:?}", fields.iter().find(|f| day(f)));
    assert!(fields.iter().any(|f| f.starts_with("0 ") && f.contains('/')));
}

/// The cut list of a job of frames alone is not empty: its members and plates are what is cut.
#[test]
fn the_cut_list_is_of_the_whole_job() {
    let mut job = demo();
    let whole = String::from_utf8(lists::cut_list(&cut_list(&job, &evaluate(&job))).unwrap()).unwrap();
    job.pieces.clear();
    let list = cut_list(&job, &evaluate(&job));
    let frames = String::from_utf8(lists::cut_list(&list).unwrap()).unwrap();
    for row in
        list.frames[0].bars.iter().map(|b| &b.mark).chain(list.frames[0].plates.iter().map(|p| &p.mark))
    {
        for text in [&whole, &frames] {
            assert!(text.lines().any(|l| l.starts_with(&format!("{row},"))), "{row}");
        }
    }
    // Sheet to be bought: the sums of the rows of each material and thickness.
    let list = cut_list(&demo(), &evaluate(&demo()));
    for t in &list.sheets {
        let rows: Vec<_> =
            list.rows.iter().filter(|r| r.material == t.material && r.thickness == t.thickness).collect();
        let mass: f64 = rows.iter().map(|r| r.total_mass.parse::<f64>().unwrap()).sum();
        assert_relative_eq!(t.mass.parse::<f64>().unwrap(), mass, epsilon = 1e-9);
        assert_eq!(t.pieces, rows.iter().map(|r| r.quantity).sum::<usize>());
    }
    assert_eq!(
        list.sheets.iter().map(|t| t.pieces).sum::<usize>(),
        list.rows.iter().map(|r| r.quantity).sum::<usize>()
    );
}

/// A name that a spreadsheet would take for a formula is told apart, in cells of one's own too.
#[test]
fn own_cells_are_no_formulas() {
    let mut job = demo();
    job.frames[0].rows[0].cells = vec!["=1+1".into()];
    let list = cut_list(&job, &evaluate(&job));
    let text = String::from_utf8(lists::saw_list(&list).unwrap()).unwrap();
    assert!(text.contains("'=1+1"));
}

#[test]
fn a_skeleton_comes_back_as_the_same_frame() {
    let job = demo();
    let r = evaluate_frame(&job, &job.frames[0]);
    let read = skeleton::read(&skeleton::write(&job.frames[0], &r).unwrap(), None);
    // What it cannot say is told, by kind and number: the frame that comes back is lighter by its plates.
    let said: Vec<&str> = read.left_out.iter().map(|l| l.1.as_str()).collect();
    for (verb, kind) in [("gusset", "gusset"), ("base", "foot"), ("lug", "lug"), ("hole", "hole")] {
        let n = job.frames[0]
            .lines
            .iter()
            .filter(|l| serde_json::to_value(&l.say).unwrap()["verb"] == verb)
            .count();
        assert!(
            n > 0
                && said
                    .iter()
                    .any(|s| *s == format!("{n} × {kind} of the frame that was written: say them again")),
            "{n} {kind}: {said:?}"
        );
    }
    let plain = Frame { lines: read.lines, ..job.frames[0].clone() };
    let again = evaluate_frame(&job, &plain);
    assert!(again.faults.is_empty(), "{:?}", again.faults);
    assert_eq!((again.nodes.len(), again.members.len()), (r.nodes.len(), r.members.len()));
    // Joints and plates are not in it; centrelines are.
    let run = |r: &steelk_core::frame::FrameResult| r.members.iter().map(|m| m.length).sum::<f64>();
    assert_relative_eq!(run(&again), run(&r), max_relative = 1e-9);
}

/// Frames of typed lines, on the demo's job.
fn typed(lines: &[&str]) -> Frame {
    let mut nodes = Vec::new();
    let mut frame = Frame { lines: Vec::new(), rows: Vec::new(), ..demo().frames[0].clone() };
    for (i, text) in lines.iter().enumerate() {
        let say =
            read_frame_line(text, &Context::default()).unwrap_or_else(|f| panic!("{text}: {}", f.message));
        if let FrameOperation::Node(n) = &say {
            nodes.push(n.name.clone());
        }
        frame.lines.push(FrameLine::new(format!("line-{i}"), say));
    }
    frame
}

/// Bars bent with a radius, as an arc, as a ring, set off their line, turned, mirrored, of open sections:
/// each comes back where it was.
#[rstest]
#[case::elbow(&["node A 0 0 0", "node B 900 0 0", "node C 900 700 0", "pipe A B C 48.3x3 bent 150"])]
#[case::in_space(&["node A 0 0 0", "node B 900 0 0", "node C 900 700 0", "node D 900 700 800",
    "pipe A B C D 60x60x3 bent 200 turn 30"])]
#[case::set_off(&["node A 0 0 0", "node B 900 0 0", "node C 900 700 0", "pipe A B C, RHS 80x40x3 bent 200 \
    top"])]
#[case::closed(&["node A 0 0 0", "node B 900 0 0", "node C 900 700 0", "node D 0 700 0",
    "rail A B C D 60x60x3 closed bent 150"])]
#[case::arch(&["node A -500 0 0", "node M 0 0 220", "node B 500 0 0", "rail A M B, L 60x40x5 arc"])]
#[case::arch_set_off(&["node A -500 0 0", "node M 0 0 220", "node B 500 0 0", "rail A M B, IPE 100 arc \
    bottom"])]
#[case::ring(&["node A 500 0 0", "node M 0 500 0", "node B -500 0 0", "hoop A M B 48.3x3 arc closed"])]
#[case::mirrored(&["node A 200 0 0", "node B 900 0 0", "node C 900 700 300", "pipe A B C, RHS 80x40x3 bent \
    150 turn 20 top right", "mirror east 0", "repeat 3 up 900"])]
#[case::grown(&["node A 900 0 0", "node B 900 0 700", "node C 0 0 700", "pipe A B C 48.3x3 bent 150",
    "mirror east 0"])]
#[case::half_arch(&["node A 500 0 0", "node M 353.553391 0 353.553391", "node B 0 0 500", "rail A M B 48.3x3 \
    arc", "mirror east 0"])]
#[case::straight(&["node A 0 0 0", "node B 900 300 200", "rail A B, RHS 80x40x3 turn 35 top left",
    "post A B, L 60x40x5 centroid", "mirror north -100"])]
fn bars_of_any_way_come_back(#[case] lines: &[&str]) {
    let (job, frame) = (demo(), typed(lines));
    let r = evaluate_frame(&job, &frame);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let bytes = skeleton::write(&frame, &r).unwrap();
    let read = skeleton::read(&bytes, None);
    assert!(read.left_out.is_empty(), "{:?}", read.left_out);
    let again = evaluate_frame(&job, &Frame { lines: read.lines, ..frame.clone() });
    assert!(again.faults.is_empty(), "{:?} {}", again.faults, String::from_utf8_lossy(&bytes));
    assert_eq!(again.members.len(), r.members.len());
    for (m, n) in r.members.iter().zip(&again.members) {
        assert_relative_eq!(m.length, n.length, epsilon = 0.01);
        // The same section lies in the same places, however far along.
        let (p, q) = (&r.profiles[m.profile], &again.profiles[n.profile]);
        assert_eq!(p.section.designation, q.section.designation);
        for share in [0.0, 0.3, 0.8] {
            for corner in [p.fine[0], p.fine[p.fine.len() / 3]] {
                let (here, there) = (along(m, share).point(corner, 0.0), along(n, share).point(corner, 0.0));
                assert!(here.distance(there) < 0.01, "{} {share}: {here} {there}", m.name);
            }
        }
    }
    // Nor does it grow when it goes round again.
    assert_eq!(skeleton::write(&frame, &again).unwrap().len(), bytes.len());
}

/// Units, semicolons with decimal commas, byte-order marks, ways to sit that there are not: read, or told.
#[test]
fn skeletons_of_other_programs_are_read_or_told() {
    let file = "\u{feff}kind;name;x;y;z\nunit;in\nnode;A;0;0;0\nnode;B;19,5;-0,25;1/2\nmember;rail;A \
        B;60x60x3;;top left\nmember;rail;A B;60x60x3;;upside\n";
    let read = skeleton::read(file.as_bytes(), Some(LengthUnit::Mm));
    assert_eq!(read.lines.len(), 3, "{:?}", read.left_out);
    let FrameOperation::Node(b) = &read.lines[1].say else { panic!() };
    assert_eq!((b.x.as_str(), b.y.as_str(), b.z.as_str()), ("19.5 in", "-0.25 in", "1/2 in"));
    assert_eq!(read.left_out.len(), 1);
    assert!(
        read.left_out[0].1.contains("'upside' is no way to sit") && read.left_out[0].1.contains("top left"),
        "{:?}",
        read.left_out
    );
    // In the frame's own unit lengths stay as they are.
    let same = skeleton::read(file.as_bytes(), Some(LengthUnit::In));
    assert!(matches!(&same.lines[1].say, FrameOperation::Node(n) if n.x == "19.5"));
    // It is the frame that it would be in millimetres.
    let frame = Frame { lines: read.lines, ..typed(&[]) };
    let r = evaluate_frame(&demo(), &frame);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    assert_relative_eq!(
        r.members[0].length,
        25.4 * (19.5f64 * 19.5 + 0.25 * 0.25 + 0.5 * 0.5).sqrt(),
        max_relative = 1e-9
    );
    let odd = skeleton::read(b"unit,cubit\nnode,A,0,0,0\n", None);
    assert!(odd.left_out[0].1.contains("neither mm nor in"));
}

/// The bar so far along the whole way.
fn along(m: &Member, share: f64) -> Bar {
    let mut left = m.length * share;
    for s in &m.way {
        if left <= s.length() {
            return s.at(left / s.length());
        }
        left -= s.length();
    }
    m.way[m.way.len() - 1].at(1.0)
}

/// A bar with bends of two radii is named with its length, and told when it is read.
#[test]
fn what_no_row_can_say_is_not_lost_unsaid() {
    let frame = typed(&[
        "node A 0 0 0",
        "node B 900 0 0",
        "node C 900 700 0",
        "node D 1800 700 0",
        "pipe A B C D 60x60x3 bent 200",
    ]);
    let mut r = evaluate_frame(&demo(), &frame);
    let CentrelineSegment::Bend { bar, centre, radius, .. } = &mut r.members[0].way[1] else {
        panic!("{:?}", r.members[0].way)
    };
    *centre = bar.o + (*centre - bar.o) * 1.1;
    *radius *= 1.1;
    let read = skeleton::read(&skeleton::write(&frame, &r).unwrap(), None);
    assert_eq!(read.left_out.len(), 1);
    assert!(read.left_out[0].1.contains("several radii"));
}

/// A bar of another material than its frame's says so, and keeps it.
#[test]
fn materials_come_back() {
    let mut frame = typed(&["node A 0 0 0", "node B 900 0 0", "rail A B", "rail A B 40x40x3"]);
    let FrameOperation::Members(m) = &mut frame.lines[3].say else { panic!() };
    m.material = "1.4301".into();
    let r = evaluate_frame(&demo(), &frame);
    let again = evaluate_frame(
        &demo(),
        &Frame { lines: skeleton::read(&skeleton::write(&frame, &r).unwrap(), None).lines, ..frame.clone() },
    );
    let materials = |r: &FrameResult| r.members.iter().map(|m| m.material.id.clone()).collect::<Vec<_>>();
    assert_eq!(materials(&again), materials(&r));
    assert_relative_eq!(again.mass(), r.mass(), max_relative = 1e-9);
}

#[test]
fn rows_that_say_nothing_are_told_and_left_out() {
    let read = skeleton::read(
        b"kind,name\nnode,A,0,0,0\nnode,,1,2,3\nmember,rail,A,60x60x3\nbeam,x\n\n\
            member,rail,A A2,60x60x3,45,top left\n\xff\xfe,1\n",
        None,
    );
    assert_eq!(read.lines.len(), 2);
    assert_eq!(read.left_out.iter().map(|l| l.0).collect::<Vec<_>>(), [3, 4, 5, 7]);
}

/// The frame as triangles encloses the volume of its members and plates.
#[test]
fn meshes_enclose_the_metal() {
    let job = demo();
    let r = evaluate_frame(&job, &job.frames[0]);
    let bytes = mesh::stl(&[mesh::single(&whole(&r, true), "F-1", "", "")], "F-1");
    let n = u32::from_le_bytes(bytes[80..84].try_into().unwrap()) as usize;
    assert_eq!(bytes.len(), 84 + 50 * n);
    let mut volume = 0.0;
    for t in 0..n {
        let at = |k: usize| {
            f64::from(f32::from_le_bytes(bytes[84 + t * 50 + 12 + k * 4..][..4].try_into().unwrap()))
        };
        let p = |k: usize| glam::DVec3::new(at(k * 3), at(k * 3 + 1), at(k * 3 + 2));
        volume += p(0).dot(p(1).cross(p(2))) / 6.0;
    }
    assert_relative_eq!(volume * 7850e-9, r.mass(), max_relative = 0.005);
    assert!(mesh::glb(&[mesh::single(&whole(&r, true), "F-1", "", "")], "F-1").starts_with(b"glTF"));
}

proptest! {
    #[test]
    fn any_bytes_are_read_or_left_out(bytes in prop::collection::vec(any::<u8>(), 0..400),
        rows in prop::collection::vec("(node|member|m|n|kind),[A-C ,0-9.xé\"]{0,20}", 0..8)) {
        let _ = skeleton::read(&bytes, None);
        let job = demo();
        let frame = Frame { lines: skeleton::read(rows.join("\n").as_bytes(), None).lines,
            ..job.frames[0].clone() };
        prop_assert!(evaluate_frame(&job, &frame).mass().is_finite());
    }
}

/// No cell of a skeleton begins a formula, and the names come back as they were.
#[test]
fn a_skeleton_is_safe_in_a_spreadsheet() {
    let lines: Vec<FrameLine> = ["node \"=A1\" 0 0 0", "node B -500 0 0"]
        .iter()
        .enumerate()
        .map(|(i, t)| FrameLine::new(format!("l{i}"), read_frame_line(t, &Context::default()).unwrap()))
        .collect();
    let mut frame = Frame {
        id: "f".into(),
        mark: "F".into(),
        quantity: "1".into(),
        material: "s235".into(),
        section: "SHS 40x40x3".into(),
        lines,
        ..Frame::default()
    };
    frame.lines.push(
        serde_json::from_value(serde_json::json!({ "id": "m", "say": { "verb": "members",
        "name": "@rail", "path": ["=A1", "B"] } }))
        .unwrap(),
    );
    let r = evaluate_frame(&Job::default(), &frame);
    let bytes = skeleton::write(&frame, &r).unwrap();
    let mut reader = csv::ReaderBuilder::new().flexible(true).from_reader(&bytes[..]);
    let cells: Vec<String> =
        reader.records().flat_map(|r| r.unwrap().iter().map(str::to_string).collect::<Vec<_>>()).collect();
    assert!(cells.iter().any(|c| c == "'@rail") && cells.iter().any(|c| c == "'=A1"), "{cells:?}");
    assert!(
        cells.iter().all(|c| c.parse::<f64>().is_ok() || !c.starts_with(['=', '+', '-', '@'])),
        "{cells:?}"
    );
    let read = skeleton::read(&bytes, None);
    let FrameOperation::Members(m) = &read.lines[2].say else { panic!("{:?}", read.lines) };
    assert_eq!((m.name.as_str(), m.path.join(" ")), ("@rail", "=A1 B".to_string()));
}
