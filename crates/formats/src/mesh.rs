//! Solids as STL (binary) and GLB (binary glTF 2.0). STL in millimetres, GLB in metres as its standard asks.
//! Arcs of outlines are chords within
//! `CHORD` of them; holes of sheet pieces take away their true area. Both files say so.

use std::collections::HashMap;

use glam::{DAffine3, DMat4, DVec3};
use steelk_core::geom::CHORD;
use steelk_core::sheet::mesh::Solid;

/// A body in its own place, and where copies of it stand.
pub struct Body<'a> {
    pub solid: &'a Solid,
    pub material: String,
    /// What of it the mesh does not show; empty for nothing.
    pub unseen: String,
    /// Name of each copy, and its place.
    pub places: Vec<(String, DAffine3)>,
}

/// One body that stands where it was made.
pub fn single<'a>(solid: &'a Solid, name: &str, material: &str, unseen: &str) -> Body<'a> {
    Body {
        solid,
        material: material.into(),
        unseen: unseen.into(),
        places: vec![(name.into(), DAffine3::IDENTITY)],
    }
}

/// Bodies of an STL stand this much out of their place, each by another, so that a reader does not take two
/// that touch for one, mm.
const APART: f64 = 0.002;

/// Binary STL of all bodies; the normal of each facet from its corners.
pub fn stl(bodies: &[Body], name: &str) -> Vec<u8> {
    let count: usize = bodies.iter().map(|b| b.solid.triangles.len() * b.places.len()).sum();
    let mut out = Vec::with_capacity(84 + count * 50);
    let name: String = name.chars().filter(char::is_ascii).take(40).collect();
    let mut head: Vec<u8> = format!("steelk {name} (mm, chords within {CHORD})").into_bytes();
    head.resize(80, b' ');
    out.extend(head);
    out.extend((count as u32).to_le_bytes());
    let many = bodies.iter().map(|b| b.places.len()).sum::<usize>() > 1;
    let places = bodies.iter().flat_map(|b| b.places.iter().map(move |p| (b.solid, &p.1)));
    for (k, (solid, place)) in places.enumerate() {
        let apart = if many {
            DVec3::new((k % 8) as f64, (k / 8 % 8) as f64, (k / 64 % 8) as f64) * APART
        } else {
            DVec3::ZERO
        };
        let points: Vec<DVec3> = solid.points.iter().map(|p| place.transform_point3(*p) + apart).collect();
        let inside_out = place.matrix3.determinant() < 0.0;
        for t in &solid.triangles {
            let [a, b, c] = t.map(|i| points[i as usize]);
            let (b, c) = if inside_out { (c, b) } else { (b, c) };
            let normal = (b - a).cross(c - a).normalize_or_zero();
            for v in [normal, a, b, c] {
                v.to_array().iter().for_each(|x| out.extend((*x as f32).to_le_bytes()));
            }
            out.extend([0, 0]);
        }
    }
    out
}

/// glTF is y-up and in metres.
fn gltf(p: DVec3) -> DVec3 {
    DVec3::new(p.x, p.z, -p.y) * 1e-3
}

/// A place among points in millimetres, z up, as a place among points of the file: columns, one after the
/// other.
fn matrix(place: &DAffine3) -> Vec<f64> {
    let turn = DMat4::from_cols_array(&[
        1e-3, 0.0, 0.0, 0.0, 0.0, 0.0, -1e-3, 0.0, 0.0, 1e-3, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0,
    ]);
    (turn * DMat4::from(*place) * turn.inverse()).to_cols_array().to_vec()
}

/// Binary glTF: a mesh for each body, a node for each copy with its name, a material for each that is named.
pub fn glb(bodies: &[Body], name: &str) -> Vec<u8> {
    let mut bin: Vec<u8> = Vec::new();
    let (mut views, mut accessors, mut meshes, mut nodes): (Vec<_>, Vec<_>, Vec<_>, Vec<_>) =
        Default::default();
    let (mut materials, mut known): (Vec<serde_json::Value>, HashMap<&str, usize>) = Default::default();
    for b in bodies.iter().filter(|b| !b.solid.triangles.is_empty()) {
        let points: Vec<[f32; 3]> = b.solid.points.iter().map(|p| gltf(*p).as_vec3().to_array()).collect();
        let fold = |f: fn(f32, f32) -> f32, start: f32| {
            points.iter().fold([start; 3], |m, p| [f(m[0], p[0]), f(m[1], p[1]), f(m[2], p[2])])
        };
        let mut view = |bytes: Vec<u8>, target: u32| {
            views.push(serde_json::json!({ "buffer": 0, "byteOffset": bin.len(), "byteLength": bytes.len(),
                "target": target }));
            bin.extend(bytes);
            views.len() - 1
        };
        let at = view(points.iter().flatten().flat_map(|v| v.to_le_bytes()).collect(), 34962);
        let of = view(b.solid.triangles.iter().flatten().flat_map(|i| i.to_le_bytes()).collect(), 34963);
        accessors.push(serde_json::json!({
            "bufferView": at, "componentType": 5126, "count": points.len(), "type": "VEC3",
                "min": fold(f32::min, f32::MAX), "max": fold(f32::max, f32::MIN)
        }));
        accessors.push(serde_json::json!({ "bufferView": of, "componentType": 5125,
            "count": b.solid.triangles.len() * 3, "type": "SCALAR" }));
        let material = *known.entry(b.material.as_str()).or_insert_with(|| {
            let look = serde_json::json!({ "baseColorFactor": [0.62, 0.62, 0.6, 1.0], "metallicFactor": 0.6,
                "roughnessFactor": 0.5 });
            materials.push(serde_json::json!({ "name": b.material, "pbrMetallicRoughness": look }));
            materials.len() - 1
        });
        let primitive = serde_json::json!({ "attributes": { "POSITION": accessors.len() - 2 },
            "indices": accessors.len() - 1, "material": material });
        let called = b.places.first().map_or(name, |p| p.0.as_str());
        let mut mesh = serde_json::json!({ "name": called, "primitives": [primitive] });
        if !b.unseen.is_empty() {
            mesh["extras"] = serde_json::json!({ "unseen": b.unseen });
        }
        meshes.push(mesh);
        for (copy, place) in &b.places {
            let mut node = serde_json::json!({ "mesh": meshes.len() - 1, "name": copy });
            if *place != DAffine3::IDENTITY {
                node["matrix"] = serde_json::json!(matrix(place));
            }
            nodes.push(node);
        }
    }
    let all: Vec<usize> = (0..nodes.len()).collect();
    let mut json = serde_json::json!({
        "asset": { "version": "2.0", "generator": "steelk", "extras": { "chord_mm": CHORD } },
        "scene": 0,
        "scenes": [{ "name": name, "nodes": all }],
    });
    for (key, list) in [
        ("nodes", nodes),
        ("meshes", meshes),
        ("materials", materials),
        ("accessors", accessors),
        ("bufferViews", views),
    ] {
        // The standard wants no empty lists.
        if !list.is_empty() {
            json[key] = list.into();
        }
    }
    if bin.is_empty() {
        json["scenes"] = serde_json::json!([{ "name": name }]);
    } else {
        json["buffers"] = serde_json::json!([{ "byteLength": bin.len() }]);
    }
    let mut text = json.to_string().into_bytes();
    while !text.len().is_multiple_of(4) {
        text.push(b' ');
    }
    let total = 12 + 8 + text.len() + if bin.is_empty() { 0 } else { 8 + bin.len() };
    let mut out = Vec::with_capacity(total);
    out.extend(b"glTF");
    out.extend(2u32.to_le_bytes());
    out.extend((total as u32).to_le_bytes());
    out.extend((text.len() as u32).to_le_bytes());
    out.extend(b"JSON");
    out.extend(text);
    if !bin.is_empty() {
        out.extend((bin.len() as u32).to_le_bytes());
        out.extend(b"BIN\0");
        out.extend(bin);
    }
    out
}
