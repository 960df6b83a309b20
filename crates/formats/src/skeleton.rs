//! Nodes and members of a frame as comma-separated values, out and in.
//!
//! `node,name,x,y,z` and `member,call,nodes with spaces,section,turn,sits,bend,ring,material`; lengths as
//! they are typed in the frame's unit.
//! `bend` is the radius at the inner nodes, or `arc` for one arc through three; a closed bar says `closed`
//! under ring; `material` is empty for the frame's own. `unit,mm` names the unit of the lengths. What nodes
//! and members cannot say stands in rows `without,2 joints`, so that whoever reads it back is told.

use glam::DVec3;
use steelk_core::frame::{CentrelineSegment, FrameResult, Member};
use steelk_core::grammar::Role;
use steelk_core::job::{Alignment, Frame, FrameLine, FrameOperation, Members, NodeSaid};
use steelk_core::quantity::LengthUnit;
use steelk_core::verbs::FRAME;

/// Places nearer than this are one, mm.
const SAME: f64 = 1e-3;

pub const MOST_ROWS: usize = 20_000;

/// What a file says, and the rows that it could not.
#[derive(Debug, Default)]
pub struct Read {
    pub lines: Vec<FrameLine>,
    /// Row number from 1, and why.
    pub left_out: Vec<(usize, String)>,
}

/// Nodes and members as they stand. A bent bar runs through nodes of the frame where it can, else through
/// nodes of its own; one with bends of several radii is named with its developed length, so that it is not
/// missing unnoticed, and is not read back.
pub fn write(frame: &Frame, r: &FrameResult) -> Result<Vec<u8>, csv::Error> {
    let mut w = csv::WriterBuilder::new().flexible(true).from_writer(Vec::new());
    w.write_record([
        "kind",
        "name",
        "x or nodes",
        "y or section",
        "z or turn",
        "sits",
        "bend",
        "ring",
        "material",
    ])?;
    w.write_record(["unit", r.display.length.sign()])?;
    for said in without(frame) {
        w.write_record(["without", &said])?;
    }
    let mut nodes: Vec<(String, DVec3)> = r.nodes.iter().map(|n| (n.name.clone(), n.at)).collect();
    let mut rows = Vec::new();
    for m in &r.members {
        let p = &r.profiles[m.profile];
        let sits =
            Alignment::ALL.iter().find(|s| p.sits(**s).distance(m.sits) < SAME).filter(|s| !s.is_middle());
        let sits =
            sits.and_then(|s| serde_json::to_value(s).ok()?.as_str().map(str::to_string)).unwrap_or_default();
        let (kind, path, bend) = match (m.is_straight(), course(m)) {
            (true, _) => {
                ("member", vec![r.nodes[m.from].name.clone(), r.nodes[m.to].name.clone()], String::new())
            }
            (false, None) => (
                "bent",
                vec![r.nodes[m.from].name.clone(), r.nodes[m.to].name.clone()],
                r.display.typed(m.length),
            ),
            (false, Some(c)) => {
                let path = c
                    .points
                    .iter()
                    .enumerate()
                    .map(|(k, at)| named(&mut nodes, &format!("{}~{}", m.name, k + 1), *at))
                    .collect();
                ("member", path, c.radius.map_or_else(|| "arc".into(), |v| r.display.typed(v)))
            }
        };
        let ring = if m.closed { "closed" } else { "" };
        let material = if m.material.name == r.material { "" } else { m.material.id.as_str() };
        rows.push(
            [kind, &m.call, &path.join(" "), &p.section.designation, &turn(m), &sits, &bend, ring, material]
                .map(str::to_string),
        );
    }
    for (name, at) in &nodes {
        let [x, y, z] = at.to_array().map(|v| r.display.typed(v));
        w.write_record(["node", &named_cell(name), &x, &y, &z])?;
    }
    for row in rows {
        w.write_record(row.iter().map(|c| named_cell(c)))?;
    }
    w.into_inner().map_err(|e| e.into_error().into())
}

/// What a frame says beyond its nodes and members and copies of them, by kind and number.
fn without(frame: &Frame) -> Vec<String> {
    let kind = |say: &FrameOperation| {
        let copies = matches!(say, FrameOperation::MirrorFrame(_) | FrameOperation::RepeatFrame(_));
        let verb = FRAME.of_line(&serde_json::to_value(say).ok()?)?.verb;
        (!copies && !matches!(verb.role, Role::Node | Role::Member)).then_some(verb.stem)
    };
    let mut out: Vec<(&str, usize)> = Vec::new();
    for k in frame.lines.iter().filter(|l| !l.off).filter_map(|l| kind(&l.say)) {
        match out.iter_mut().find(|o| o.0 == k) {
            Some(o) => o.1 += 1,
            None => out.push((k, 1)),
        }
    }
    out.iter().map(|(k, n)| format!("{n} × {k}")).collect()
}

/// A cell that no spreadsheet takes for a formula; numbers stay what they are.
fn named_cell(text: &str) -> String {
    if text.parse::<f64>().is_ok() { text.to_string() } else { crate::csv::guard(text) }
}

/// The cell without the sign that keeps a spreadsheet from taking it for a formula.
fn bare(cell: &str) -> &str {
    cell.strip_prefix('\'').filter(|c| c.starts_with(['=', '+', '-', '@'])).unwrap_or(cell)
}

/// The node at a place, a new one where none is.
fn named(nodes: &mut Vec<(String, DVec3)>, name: &str, at: DVec3) -> String {
    match nodes.iter().find(|n| n.1.distance(at) < SAME) {
        Some(n) => n.0.clone(),
        None => {
            nodes.push((name.to_string(), at));
            name.to_string()
        }
    }
}

/// The nodes that a bent bar can be told by, and the radius of its bends; none for a single arc or a ring.
struct Course {
    points: Vec<DVec3>,
    radius: Option<f64>,
}

/// None where one radius does not say it all.
fn course(m: &Member) -> Option<Course> {
    let at = |s: &CentrelineSegment, share: f64| s.at(share).point(m.sits, 0.0);
    let bends = || m.way.iter().filter(|s| matches!(s, CentrelineSegment::Bend { .. }));
    let (Some(CentrelineSegment::Bend { centre, axis, radius, .. }), last) = (m.way.first(), m.way.last()?)
    else {
        return legs(m);
    };
    let one = bends().count() == m.way.len()
        && bends().all(|s| match s {
            CentrelineSegment::Bend { centre: c, axis: a, radius: r, .. } => {
                c.distance(*centre) < SAME && a.dot(*axis) > 1.0 - 1e-9 && (r - radius).abs() < SAME
            }
            CentrelineSegment::Straight { .. } | CentrelineSegment::Twist { .. } => false,
        });
    if !one {
        return legs(m);
    }
    if m.closed {
        return Some(Course {
            points: [0.0, 1.0 / 3.0, 2.0 / 3.0].map(|k| at(&m.way[0], k)).into(),
            radius: None,
        });
    }
    // Half way round all of it.
    let sweeps = || bends().map(|s| if let CentrelineSegment::Bend { sweep, .. } = s { *sweep } else { 0.0 });
    let mut left = sweeps().sum::<f64>() / 2.0;
    let (k, share) = sweeps().enumerate().find_map(|(k, sweep)| {
        left -= sweep;
        (left <= 1e-12).then_some((k, (left + sweep) / sweep))
    })?;
    Some(Course { points: vec![at(&m.way[0], 0.0), at(&m.way[k], share), at(last, 1.0)], radius: None })
}

/// Straight legs with bends of one radius between them: the corners that the legs would meet at.
fn legs(m: &Member) -> Option<Course> {
    let mut corners = Vec::new();
    let mut told: Option<f64> = None;
    for s in &m.way {
        let CentrelineSegment::Bend { bar, centre, axis, sweep, .. } = *s else { continue };
        let start = bar.point(m.sits, 0.0);
        let spoke = start - centre;
        let r = (spoke - axis * spoke.dot(axis)).length();
        if sweep > 3.0 || (told.unwrap_or(r) - r).abs() > SAME {
            return None;
        }
        told = Some(r);
        corners.push(start + bar.d * (r * (sweep / 2.0).tan()));
    }
    let end = |s: &CentrelineSegment, share: f64| s.at(share).point(m.sits, 0.0);
    let points = if m.closed {
        // It is cut in the middle of its first leg, which begins at the last corner.
        corners.rotate_right(1);
        corners
    } else {
        std::iter::once(end(m.way.first()?, 0.0)).chain(corners).chain([end(m.way.last()?, 1.0)]).collect()
    };
    Some(Course { points, radius: told })
}

/// The turn that gives this member its stand.
fn turn(m: &Member) -> String {
    let bar = m.end(0);
    let plain = steelk_core::frame::stand(bar.o, bar.d, 0.0);
    let angle = bar.z.dot(-plain.y).atan2(bar.z.dot(plain.z)).to_degrees();
    let text = steelk_core::quantity::trim_number(angle, 3);
    if text == "0" { String::new() } else { text }
}

/// Between cells: a comma, a semicolon or a tab, whichever the first row that has any has most of.
fn delimiter(bytes: &[u8]) -> u8 {
    let first =
        bytes.split(|b| *b == b'\n').find(|l| l.iter().any(|b| b",;\t".contains(b))).unwrap_or_default();
    let count = |d: u8| first.iter().filter(|b| **b == d).count();
    [b';', b'\t'].into_iter().find(|d| count(*d) > count(b',')).unwrap_or(b',')
}

/// `1,5` as spreadsheets write it between semicolons: 1.5.
fn pointed(cell: &str) -> String {
    let comma = cell.split_once(',').is_some_and(|(a, b)| {
        let a = a.strip_prefix('-').unwrap_or(a);
        !a.is_empty() && !b.is_empty() && (a.to_string() + b).chars().all(|c| c.is_ascii_digit())
    });
    if comma { cell.replace(',', ".") } else { cell.to_string() }
}

/// The way to sit of this name; empty is the middle.
fn sits_of(name: &str) -> Result<Alignment, String> {
    if name.is_empty() {
        return Ok(Alignment::Middle);
    }
    serde_json::from_value(serde_json::Value::String(name.to_lowercase().replace(' ', "_"))).map_err(|_| {
        let known: Vec<String> = Alignment::ALL
            .iter()
            .filter_map(|s| Some(serde_json::to_value(s).ok()?.as_str()?.replace('_', " ")))
            .collect();
        format!(
            "'{}' is no way to sit: pick from {}",
            name.chars().take(30).collect::<String>(),
            known.join(", ")
        )
    })
}

/// Rows that cannot be read are told and left out; the rest goes on. A heading is passed over. `into` is the
/// unit of the frame that takes them in.
pub fn read(bytes: &[u8], into: Option<LengthUnit>) -> Read {
    let mut out = Read::default();
    let bytes = bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes);
    let delimiter = delimiter(bytes);
    let mut reader = csv::ReaderBuilder::new()
        .delimiter(delimiter)
        .has_headers(false)
        .flexible(true)
        .trim(csv::Trim::All)
        .from_reader(bytes);
    let mut unit: Option<LengthUnit> = None;
    for (i, record) in reader.byte_records().enumerate() {
        let row = i + 1;
        if row > MOST_ROWS {
            out.left_out.push((row, format!("a file has at most {MOST_ROWS} rows")));
            break;
        }
        let Ok(record) = record else {
            out.left_out.push((row, "the row cannot be read".into()));
            continue;
        };
        let field = |k: usize| {
            let cell = record
                .get(k)
                .map_or_else(String::new, |f| bare(String::from_utf8_lossy(f).trim()).to_string());
            if delimiter == b';' { pointed(&cell) } else { cell }
        };
        // Lengths of a file in another unit than the frame's carry theirs.
        let length = |k: usize| match unit.filter(|u| into.is_some_and(|i| i != *u)) {
            Some(u) if field(k).ends_with(|c: char| c.is_ascii_digit()) => {
                format!("{} {}", field(k), u.sign())
            }
            _ => field(k),
        };
        let n = out.lines.len() + 1;
        match field(0).to_lowercase().as_str() {
            "node" | "n" => {
                if field(1).is_empty() {
                    out.left_out.push((row, "the node has no name".into()));
                    continue;
                }
                let zero = |k: usize| if field(k).is_empty() { "0".to_string() } else { length(k) };
                let say = FrameOperation::Node(NodeSaid {
                    name: field(1),
                    from: String::new(),
                    x: zero(2),
                    y: zero(3),
                    z: zero(4),
                });
                out.lines.push(FrameLine::new(format!("node-{n}"), say));
            }
            "member" | "m" => {
                let path: Vec<String> = field(2).split_whitespace().map(str::to_string).collect();
                if path.len() < 2 {
                    out.left_out.push((row, "the member names fewer than two nodes".into()));
                    continue;
                }
                let sits = match sits_of(&field(5)) {
                    Ok(sits) => sits,
                    Err(why) => {
                        out.left_out.push((row, why));
                        continue;
                    }
                };
                let call = if field(1).is_empty() { "member".into() } else { field(1) };
                let arc = field(6).eq_ignore_ascii_case("arc");
                let radius = if arc { String::new() } else { length(6) };
                let closed = !field(7).is_empty();
                let say = FrameOperation::Members(Members {
                    name: call,
                    path,
                    section: field(3),
                    turn: field(4),
                    sits,
                    radius,
                    arc,
                    closed,
                    material: field(8),
                });
                out.lines.push(FrameLine::new(format!("member-{n}"), say));
            }
            "unit" => match [LengthUnit::Mm, LengthUnit::In]
                .into_iter()
                .find(|u| u.sign() == field(1).to_lowercase())
            {
                Some(u) => unit = Some(u),
                None => out
                    .left_out
                    .push((row, "the unit is neither mm nor in: lengths are read in the frame's".into())),
            },
            "without" => out
                .left_out
                .push((row, format!("{} of the frame that was written: say them again", field(1)))),
            "bent" => out
                .left_out
                .push((row, "a bar with bends of several radii is not taken in: say it as a line".into())),
            "kind" | "" if i == 0 || record.iter().all(|f| f.is_empty()) => {}
            other => out.left_out.push((
                row,
                format!("'{}' is neither node nor member", other.chars().take(30).collect::<String>()),
            )),
        }
    }
    out
}
