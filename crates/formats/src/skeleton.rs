//! Nodes and members of a frame as comma-separated values, out and in.
//!
//! `node,name,x,y,z` and `member,call,nodes with spaces,section,turn,sits`; lengths as they are typed in the frame's unit.

use steelk_core::frame::FrameResult;
use steelk_core::job::{FrameLine, FrameSay, Members, NodeSaid, Sits};

pub const MOST_ROWS: usize = 20_000;

/// What a file says, and the rows that it could not.
#[derive(Debug, Default)]
pub struct Read {
    pub lines: Vec<FrameLine>,
    /// Row number from 1, and why.
    pub left_out: Vec<(usize, String)>,
}

/// Nodes and members as they stand. Bent bars are named, with their developed length, so that none is missing unnoticed; they are not read back.
pub fn write(r: &FrameResult) -> Result<Vec<u8>, csv::Error> {
    let mut w = csv::WriterBuilder::new().flexible(true).from_writer(Vec::new());
    w.write_record(["kind", "name", "x or nodes", "y or section", "z or turn", "sits"])?;
    for n in &r.nodes {
        let [x, y, z] = n.at.to_array().map(|v| r.display.typed(v));
        w.write_record(["node", &n.name, &x, &y, &z, ""])?;
    }
    for m in r.members.iter().filter(|m| m.is_straight()) {
        let path = format!("{} {}", r.nodes[m.from].name, r.nodes[m.to].name);
        w.write_record(["member", &m.call, &path, &r.profiles[m.profile].section.designation, &turn(m), ""])?;
    }
    for m in r.members.iter().filter(|m| !m.is_straight()) {
        let path = format!("{} {}", r.nodes[m.from].name, r.nodes[m.to].name);
        w.write_record(["bent", &m.call, &path, &r.profiles[m.profile].section.designation, &r.display.typed(m.length), ""])?;
    }
    w.into_inner().map_err(|e| e.into_error().into())
}

/// The turn that gives this member its stand.
fn turn(m: &steelk_core::frame::Member) -> String {
    let bar = m.end(0);
    let plain = steelk_core::frame::stand(bar.o, bar.d, 0.0);
    let angle = bar.z.dot(-plain.y).atan2(bar.z.dot(plain.z)).to_degrees();
    let text = steelk_core::quantity::trim_number(angle, 3);
    if text == "0" { String::new() } else { text }
}

/// Rows that cannot be read are told and left out; the rest goes on. A heading is passed over.
pub fn read(bytes: &[u8]) -> Read {
    let mut out = Read::default();
    let mut reader = csv::ReaderBuilder::new().has_headers(false).flexible(true).trim(csv::Trim::All).from_reader(bytes);
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
        let field = |k: usize| record.get(k).map_or_else(String::new, |f| String::from_utf8_lossy(f).trim().to_string());
        let n = out.lines.len() + 1;
        match field(0).to_lowercase().as_str() {
            "node" | "n" => {
                if field(1).is_empty() {
                    out.left_out.push((row, "the node has no name".into()));
                    continue;
                }
                let zero = |k: usize| if field(k).is_empty() { "0".to_string() } else { field(k) };
                let say = FrameSay::Node(NodeSaid { name: field(1), from: String::new(), x: zero(2), y: zero(3), z: zero(4) });
                out.lines.push(FrameLine { id: format!("node-{n}"), off: false, say });
            }
            "member" | "m" => {
                let path: Vec<String> = field(2).split_whitespace().map(str::to_string).collect();
                if path.len() < 2 {
                    out.left_out.push((row, "the member names fewer than two nodes".into()));
                    continue;
                }
                let sits = serde_json::from_value(serde_json::Value::String(field(5).to_lowercase().replace(' ', "_"))).unwrap_or(Sits::Middle);
                let call = if field(1).is_empty() { "member".into() } else { field(1) };
                let say = FrameSay::Members(Members { name: call, path, section: field(3), turn: field(4), sits, ..Members::default() });
                out.lines.push(FrameLine { id: format!("member-{n}"), off: false, say });
            }
            "bent" => out.left_out.push((row, "bent bars are not taken in: say them as lines, with their radius or as an arc".into())),
            "kind" | "" if i == 0 || record.iter().all(|f| f.is_empty()) => {}
            other => out.left_out.push((row, format!("'{}' is neither node nor member", other.chars().take(30).collect::<String>()))),
        }
    }
    out
}
