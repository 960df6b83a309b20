//! Where the figures of a job are used: what depends on each, and which of its uses refuse it.

use std::collections::BTreeMap;

use ground::quantity::parse;
use serde::Serialize;
use serde_json::Value;

use super::JobResult;
use crate::job::{Job, texts};

/// A figure and all that depends on it.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FigureUses {
    pub name: String,
    /// Other figures that lean on it, at first or second hand.
    pub figures: Vec<String>,
    pub uses: Vec<FigureUse>,
}

/// A value that a figure stands in.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
pub struct FigureUse {
    /// Mark of the piece, frame or brief; empty for a setting of the job.
    pub mark: String,
    /// The line; empty for a field of its head.
    pub line: String,
    /// JSON pointer within the line or the head.
    pub path: String,
    /// As it is typed.
    pub text: String,
    /// Why it cannot be read there; empty where it can.
    pub refused: String,
}

/// The uses of every figure, in the order of the figures.
pub fn figure_uses(job: &Job, result: &JobResult) -> Vec<FigureUses> {
    let doc = serde_json::to_value(job).unwrap_or_default();
    let mut places = Vec::new();
    for (list, faults) in [
        ("pieces", result.pieces.iter().map(|p| &p.faults).collect::<Vec<_>>()),
        ("frames", result.frames.iter().map(|f| &f.faults).collect()),
        ("briefs", result.briefs.iter().map(|b| &b.faults).collect()),
    ] {
        for (i, item) in doc[list].as_array().into_iter().flatten().enumerate() {
            ground::halt::point();
            let mark = item["mark"].as_str().unwrap_or_default();
            let refused = |line: &str, path: &str| {
                let all = faults.get(i).map(|f| f.as_slice()).unwrap_or_default();
                let own = all.iter().find(|f| f.line == line && f.path == path);
                own.map_or_else(String::new, |f| f.fault.message.clone())
            };
            for (key, value) in item.as_object().into_iter().flatten() {
                if key != "lines" {
                    walk(value, &format!("/{key}"), &mut |path, text| {
                        places.push(place(mark, "", path, text, refused("", path)));
                    });
                }
            }
            for line in item["lines"].as_array().into_iter().flatten() {
                let id = line["id"].as_str().unwrap_or_default();
                walk(&line["say"], "/say", &mut |path, text| {
                    places.push(place(mark, id, path, text, refused(id, path)));
                });
            }
        }
    }
    // What is left is settings of the job; its figures lean on one another in a way of their own.
    let apart = ["pieces", "frames", "briefs", "figures"];
    for (key, value) in doc.as_object().into_iter().flatten().filter(|(k, _)| !apart.contains(&k.as_str())) {
        walk(value, &format!("/{key}"), &mut |path, text| {
            places.push(place("", "", path, text, String::new()));
        });
    }
    let named: BTreeMap<usize, Vec<String>> = places
        .iter()
        .enumerate()
        .map(|(i, p)| (i, names_in(&p.text)))
        .filter(|(_, names)| !names.is_empty())
        .collect();
    let leans: Vec<Vec<String>> = job.figures.iter().map(|f| names_in(&f.value)).collect();
    job.figures.iter().map(|f| of_figure(job, &f.name, &leans, &named, &places)).collect()
}

fn of_figure(
    job: &Job,
    name: &str,
    leans: &[Vec<String>],
    named: &BTreeMap<usize, Vec<String>>,
    places: &[FigureUse],
) -> FigureUses {
    // Figures that lean on it, and those that lean on them.
    let mut figures: Vec<String> = vec![name.to_string()];
    let mut at = 0;
    while at < figures.len() {
        for (f, on) in job.figures.iter().zip(leans) {
            if on.contains(&figures[at]) && !figures.contains(&f.name) {
                figures.push(f.name.clone());
            }
        }
        at += 1;
    }
    let is_used = |names: &&Vec<String>| names.iter().any(|n| figures.contains(n));
    let uses = named.iter().filter(|(_, n)| is_used(n)).map(|(i, _)| places[*i].clone()).collect();
    FigureUses { name: name.into(), figures: figures.split_off(1), uses }
}

fn place(mark: &str, line: &str, path: &str, text: &str, refused: String) -> FigureUse {
    FigureUse { mark: mark.into(), line: line.into(), path: path.into(), text: text.into(), refused }
}

/// Names in a text that can be read as a value.
fn names_in(text: &str) -> Vec<String> {
    let Ok(expr) = parse(text) else { return Vec::new() };
    let mut names = Vec::new();
    expr.names(&mut names);
    names.into_iter().map(str::to_string).collect()
}

/// Every text that may be a value and names something, with its pointer.
fn walk(of: &Value, at: &str, take: &mut impl FnMut(&str, &str)) {
    texts(of, at, &mut |path, field, text, is_value| {
        // A variant names the figure whose value it tells.
        if is_value && field != "figure" && text.contains(char::is_alphabetic) {
            take(path, text);
        }
    });
}
