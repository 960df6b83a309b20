//! The server's description of itself: OpenAPI, and the schema of a job.

use serde_json::{Value, json};
use utoipa::OpenApi;

use super::Api;

/// The OpenAPI document, as text.
pub fn openapi() -> String {
    serde_json::to_string_pretty(&description()).unwrap_or_default() + "\n"
}

/// The description as it goes out: schemas closed, every answer with its words, refusals as what they are.
pub(super) fn description() -> Value {
    let mut all = serde_json::to_value(Api::openapi()).unwrap_or_default();
    if let Some(schemas) = all.pointer_mut("/components/schemas").and_then(Value::as_object_mut) {
        close_all(schemas, "#/components/schemas/");
    }
    let paths = all.get_mut("paths").and_then(Value::as_object_mut);
    for (path, methods) in paths.into_iter().flatten() {
        for (method, operation) in methods.as_object_mut().into_iter().flatten() {
            let Some(responses) = operation.get_mut("responses").and_then(Value::as_object_mut) else {
                continue;
            };
            for status in always(path, method) {
                let problem = json!({ "content": { "application/problem+json": { "schema": {
                    "$ref": "#/components/schemas/Problem" } } } });
                responses.entry(status).or_insert(problem);
            }
            for (status, response) in responses.iter_mut() {
                let refused = !status.starts_with('2') && !status.starts_with('3');
                if let Some(content) =
                    response.get_mut("content").and_then(Value::as_object_mut).filter(|_| refused)
                    && let Some(body) = content.remove("application/json")
                {
                    content.insert("application/problem+json".into(), body);
                }
                if response.get("description").and_then(Value::as_str).is_none_or(str::is_empty) {
                    response["description"] = words(status).into();
                }
            }
        }
    }
    all
}

/// Statuses that a call may be answered with whatever it is about.
pub(super) fn always(path: &str, method: &str) -> Vec<&'static str> {
    let mut out = vec!["400", "401", "403", "500", "503"];
    if path.contains('{') {
        out.push("404");
    }
    if method == "post" || method == "put" {
        out.extend(["413", "422"]);
    }
    out
}

pub(super) fn words(status: &str) -> &'static str {
    match status {
        "200" => "What was asked for",
        "201" => "Made",
        "204" => "Done; nothing to say",
        "304" => "As the client has it",
        "400" => "The request cannot be read",
        "401" => "The key is missing or another",
        "403" => "Not from this page, host or origin",
        "404" => "Not here",
        "409" | "412" => "Changed meanwhile: the answer names the revision that stands",
        "413" => "More than the server takes",
        "422" => "Read, and refused: the field and the mend are named",
        "428" => "A revision must be named",
        "503" => "Busy, or the data base is held: try again after the time that Retry-After says",
        _ => "A failure of the server's own; its log has the cause",
    }
}

/// The JSON Schema of the job file, taken from the same description.
pub fn job_schema() -> Value {
    let all = serde_json::to_value(Api::openapi()).unwrap_or_default();
    let text = all["components"]["schemas"].to_string().replace("#/components/schemas/", "#/$defs/");
    let defs: Value = serde_json::from_str(&text).unwrap_or_default();
    // Only what a job refers to, directly or not.
    let mut wanted = vec!["Job".to_string()];
    let mut kept = serde_json::Map::new();
    while let Some(name) = wanted.pop() {
        if kept.contains_key(&name) {
            continue;
        }
        let def = defs[&name].clone();
        let text = def.to_string();
        wanted.extend(text.split("#/$defs/").skip(1).filter_map(|t| t.split('"').next()).map(str::to_string));
        kept.insert(name, def);
    }
    close_all(&mut kept, "#/$defs/");
    json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Steelk job file",
        "$ref": "#/$defs/Job",
        "$defs": kept,
    })
}

/// Objects take no fields but their own. Where schemas are joined by `allOf`, each alone would refuse the
/// other's fields: the whole is closed instead of its parts, and parts that also stand alone are closed where
/// they stand.
pub(super) fn close_all(schemas: &mut serde_json::Map<String, Value>, prefix: &str) {
    let mut joined = std::collections::BTreeSet::new();
    schemas.values_mut().for_each(|s| close(s, prefix, &mut joined));
    for name in &joined {
        if let Some(def) = schemas.get_mut(name).and_then(Value::as_object_mut) {
            def.remove("additionalProperties");
        }
    }
    // A part is open now: whoever refers to it alone closes it there.
    schemas.values_mut().for_each(|s| close_alone(s, prefix, &joined, false));
}

pub(super) fn close(schema: &mut Value, prefix: &str, joined: &mut std::collections::BTreeSet<String>) {
    match schema {
        Value::Array(list) => list.iter_mut().for_each(|s| close(s, prefix, joined)),
        Value::Object(map) => {
            if let Some(Value::Array(parts)) = map.get_mut("allOf") {
                for part in parts {
                    if let Some(name) =
                        part.get("$ref").and_then(Value::as_str).and_then(|r| r.strip_prefix(prefix))
                    {
                        joined.insert(name.to_string());
                    }
                    // Values within are closed for themselves.
                    if let Some(properties) = part.get_mut("properties") {
                        close(properties, prefix, joined);
                    }
                }
                map.insert("unevaluatedProperties".into(), Value::Bool(false));
                return;
            }
            if map.get("type") == Some(&json!("object"))
                && map.get("properties").is_some_and(Value::is_object)
            {
                map.entry("additionalProperties").or_insert(Value::Bool(false));
            }
            map.values_mut().for_each(|s| close(s, prefix, joined));
        }
        _ => {}
    }
}

pub(super) fn close_alone(
    schema: &mut Value,
    prefix: &str,
    joined: &std::collections::BTreeSet<String>,
    part: bool,
) {
    match schema {
        Value::Array(list) => list.iter_mut().for_each(|s| close_alone(s, prefix, joined, part)),
        Value::Object(map) => {
            let refers = map
                .get("$ref")
                .and_then(Value::as_str)
                .and_then(|r| r.strip_prefix(prefix))
                .is_some_and(|n| joined.contains(n));
            if refers && !part {
                map.insert("unevaluatedProperties".into(), Value::Bool(false));
            }
            for (key, value) in map.iter_mut() {
                close_alone(value, prefix, joined, key == "allOf");
            }
        }
        _ => {}
    }
}
