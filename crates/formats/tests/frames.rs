//! Files of frames, read back by other means: the saw list, the spreadsheet, the skeleton, meshes.

use std::io::Read;

use approx::assert_relative_eq;
use proptest::prelude::*;
use steelk_core::cutlist::cut_list;
use steelk_core::frame::{evaluate_frame, whole};
use steelk_core::job::{Frame, Job};
use steelk_core::sheet::evaluate;
use steelk_formats::{csv as lists, mesh, skeleton, xlsx};

fn demo() -> Job {
    serde_json::from_str(include_str!("../../../demo/orchard-line.steelk.json")).unwrap()
}

#[test]
fn the_saw_list_and_the_spreadsheet_say_what_the_list_says() {
    let job = demo();
    let list = cut_list(&job, &evaluate(&job));
    let bytes = lists::saw_list(&list).unwrap();
    let mut reader = csv::Reader::from_reader(&bytes[..]);
    let head = reader.headers().unwrap().clone();
    let column = |name: &str| head.iter().position(|h| h.starts_with(name)).unwrap_or_else(|| panic!("{name}"));
    let rows: Vec<_> = reader.records().map(Result::unwrap).collect();
    assert_eq!(rows.len(), list.frames[0].bars.len());
    let mass: f64 = rows.iter().map(|r| r[column("total mass")].parse::<f64>().unwrap()).sum();
    let plates: f64 = list.frames[0].plates.iter().map(|p| p.total_mass.parse::<f64>().unwrap()).sum();
    assert_relative_eq!(mass + plates, 189.99, epsilon = 0.05);
    for (row, bar) in rows.iter().zip(&list.frames[0].bars) {
        assert_eq!(&row[column("length")], bar.length);
        assert_eq!(&row[column("start cut, off")], bar.cuts[0].text);
    }
    assert_eq!(&rows[0][column("part number")], "PF-080");
    let plates = lists::plate_list(&list).unwrap();
    assert_eq!(csv::Reader::from_reader(&plates[..]).records().count(), list.frames[0].plates.len());

    let mut book = zip::ZipArchive::new(std::io::Cursor::new(xlsx::cut_list(&list).unwrap())).unwrap();
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
    let read = skeleton::read(&skeleton::write(&r).unwrap());
    assert!(read.left_out.is_empty(), "{:?}", read.left_out);
    let plain = Frame { lines: read.lines, ..job.frames[0].clone() };
    let again = evaluate_frame(&job, &plain);
    assert!(again.faults.is_empty(), "{:?}", again.faults);
    assert_eq!((again.nodes.len(), again.members.len()), (r.nodes.len(), r.members.len()));
    // Joints and plates are not in it; centrelines are.
    let run = |r: &steelk_core::frame::FrameResult| r.members.iter().map(|m| m.length).sum::<f64>();
    assert_relative_eq!(run(&again), run(&r), max_relative = 1e-9);
}

/// Bent bars are named in the file, and told when it is read.
#[test]
fn bent_bars_are_not_lost_unsaid() {
    let mut job = demo();
    let say = |v: serde_json::Value| serde_json::from_value(v).unwrap();
    job.frames[0].lines.extend([
        say(serde_json::json!({ "id": "n-1", "say": { "verb": "node", "name": "U", "x": "0", "y": "900", "z": "0" } })),
        say(serde_json::json!({ "id": "arc-1", "say": { "verb": "members", "name": "bow", "path": ["A", "U", "mirror-1.A"], "section": "48.3x3", "arc": true } })),
    ]);
    let r = evaluate_frame(&job, &job.frames[0]);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let bytes = skeleton::write(&r).unwrap();
    let text = String::from_utf8(bytes.clone()).unwrap();
    let row = text.lines().find(|l| l.starts_with("bent,")).unwrap();
    let told: f64 = row.split(',').nth(4).unwrap().parse().unwrap();
    assert_relative_eq!(told, r.members.iter().find(|m| m.call == "bow").unwrap().length, epsilon = 1e-3);
    let read = skeleton::read(&bytes);
    assert_eq!(read.left_out.len(), 1);
    assert!(read.left_out[0].1.contains("arc"));
    assert_eq!(read.lines.len() + 2, text.lines().count());
}

#[test]
fn rows_that_say_nothing_are_told_and_left_out() {
    let read = skeleton::read(b"kind,name\nnode,A,0,0,0\nnode,,1,2,3\nmember,rail,A,60x60x3\nbeam,x\n\nmember,rail,A A2,60x60x3,45,top left\n\xff\xfe,1\n");
    assert_eq!(read.lines.len(), 2);
    assert_eq!(read.left_out.iter().map(|l| l.0).collect::<Vec<_>>(), [3, 4, 5, 7]);
}

/// The frame as triangles encloses the volume of its members and plates.
#[test]
fn meshes_enclose_the_metal() {
    let job = demo();
    let r = evaluate_frame(&job, &job.frames[0]);
    let bytes = mesh::stl(&whole(&r, true), "F-1");
    let n = u32::from_le_bytes(bytes[80..84].try_into().unwrap()) as usize;
    assert_eq!(bytes.len(), 84 + 50 * n);
    let mut volume = 0.0;
    for t in 0..n {
        let at = |k: usize| f64::from(f32::from_le_bytes(bytes[84 + t * 50 + 12 + k * 4..][..4].try_into().unwrap()));
        let p = |k: usize| glam::DVec3::new(at(k * 3), at(k * 3 + 1), at(k * 3 + 2));
        volume += p(0).dot(p(1).cross(p(2))) / 6.0;
    }
    assert_relative_eq!(volume * 7850e-9, r.mass(), max_relative = 0.005);
    assert!(mesh::glb(&whole(&r, true), "F-1").starts_with(b"glTF"));
}

proptest! {
    #[test]
    fn any_bytes_are_read_or_left_out(bytes in prop::collection::vec(any::<u8>(), 0..400), rows in prop::collection::vec("(node|member|m|n|kind),[A-C ,0-9.xé\"]{0,20}", 0..8)) {
        let _ = skeleton::read(&bytes);
        let job = demo();
        let frame = Frame { lines: skeleton::read(rows.join("\n").as_bytes()).lines, ..job.frames[0].clone() };
        prop_assert!(evaluate_frame(&job, &frame).mass().is_finite());
    }
}
