//! Findings of a frame: each with its rule, its source, and its mend where a line can be changed so that it
//! goes.

mod bends;
mod cautions;
mod corners;
mod joints;
mod members;
mod ribs;
mod welds;

use std::collections::{HashMap, HashSet};

use shop::FrameShop;

use crate::FrameResult;
use crate::build::ribs::RibRow;
use crate::document::Frame;
use crate::mends::Mends;
use sheet::result::{Finding, Severity};

fn finding(check: &'static str, severity: Severity, message: String) -> Finding {
    Finding {
        check,
        severity,
        message,
        amount: String::new(),
        rule: String::new(),
        source: "common practice".into(),
        names: Vec::new(),
        line: None,
        at: None,
        mend: None,
    }
}

pub fn check(
    shop: &FrameShop,
    frame: &Frame,
    r: &mut FrameResult,
    refused: &[(String, usize, f64)],
    rows: &[RibRow],
) {
    let mut out = Vec::new();
    let mends = Mends::of(frame);
    let d = r.display;
    for (line, member, by) in refused {
        out.push(Finding {
            amount: d.length_unit(*by),
            rule: "a trim never lengthens unless it is told to".into(),
            names: vec![r.members[*member].name.clone()],
            line: Some(line.clone()),
            mend: mends.set(line, "lengthen", true, || "let it lengthen".into()),
            ..finding(
                "trim_would_lengthen",
                Severity::Warn,
                format!("this trim would make {} longer; it was left as it is", r.members[*member].name),
            )
        });
    }
    members::members(&shop.saw, r, &mut out);
    bends::bends(&shop.sheet.bends, &mends, r, &mut out);
    members::holes(r, &mut out);
    members::pressed(r, &mut out);
    members::duplicates(&mends, r, &mut out);
    joints::clashes(r, &mut out);
    joints::joints(r, &mut out);
    joints::curved_walls(r, &mut out);
    members::loose_ends(r, &mut out);
    welds::small(&mends, r, &mut out);
    welds::welds(&mends, r, &mut out);
    welds::uprights(r, &mut out);
    corners::corners(r, &mut out);
    ribs::ribs(r, rows, &shop.sheet.stock, &mut out);
    cautions::cautions(r, &mut out);
    // What is cut from tube has no edge of a sheet.
    for p in r.plates.iter().filter(|p| p.tube.is_none()) {
        for f in p.piece.findings.iter().filter(|f| f.severity != Severity::Note) {
            out.push(Finding {
                names: vec![p.name.clone()],
                line: Some(p.line.clone()),
                at: None,
                mend: None,
                message: format!("{}: {}", p.name, in_frame_words(f)),
                ..f.clone()
            });
        }
    }
    once(r, &mut out);
    out.sort_by_key(|f| f.severity);
    r.findings = out;
}

/// A plate of a frame has no lines of its own that could be named: its cuts are holes.
fn in_frame_words(f: &Finding) -> String {
    let is_own = |n: &&String| n.starts_with("punch-") || n.starts_with("drill-");
    let mut cuts: Vec<&String> = f.names.iter().filter(is_own).collect();
    // `punch-12` before `punch-1`.
    cuts.sort_by_key(|n| std::cmp::Reverse(n.len()));
    cuts.into_iter().fold(f.message.clone(), |text, name| text.replace(name.as_str(), "a hole"))
}

/// What is found of a member in the same measure on its copies is told of the first.
fn once(r: &FrameResult, out: &mut Vec<Finding>) {
    let roots: HashMap<&str, usize> = r.members.iter().map(|m| (m.name.as_str(), m.root)).collect();
    let mut seen = HashSet::new();
    out.retain(|f| {
        let of: Vec<usize> = f.names.iter().filter_map(|n| roots.get(n.as_str()).copied()).collect();
        of.is_empty() || seen.insert((f.check, f.line.clone(), of, f.amount.clone()))
    });
}
