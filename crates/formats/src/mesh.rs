//! Solids as STL (binary) and GLB (binary glTF 2.0). STL in millimetres, GLB in metres as its standard asks.

use steelk_core::sheet::mesh::Solid;

/// Binary STL; the normal of each facet from its corners.
pub fn stl(solid: &Solid, name: &str) -> Vec<u8> {
    let mut out = Vec::with_capacity(84 + solid.triangles.len() * 50);
    let mut head: Vec<u8> = format!("steelk {name} (mm)").bytes().filter(u8::is_ascii).take(80).collect();
    head.resize(80, b' ');
    out.extend(head);
    out.extend((solid.triangles.len() as u32).to_le_bytes());
    for t in &solid.triangles {
        let [a, b, c] = t.map(|i| solid.points[i as usize]);
        let normal = (b - a).cross(c - a).normalize_or_zero();
        for v in [normal, a, b, c] {
            v.to_array().iter().for_each(|x| out.extend((*x as f32).to_le_bytes()));
        }
        out.extend([0, 0]);
    }
    out
}

/// Binary glTF: one mesh, flat-shaded by having no shared normals.
pub fn glb(solid: &Solid, name: &str) -> Vec<u8> {
    // glTF is y-up and in metres.
    let at = |p: &glam::DVec3| [p.x * 1e-3, p.z * 1e-3, -p.y * 1e-3].map(|v| v as f32);
    let points: Vec<[f32; 3]> = solid.points.iter().map(at).collect();
    let fold = |f: fn(f32, f32) -> f32, start: f32| points.iter().fold([start; 3], |m, p| [f(m[0], p[0]), f(m[1], p[1]), f(m[2], p[2])]);
    let (low, high) = if points.is_empty() { ([0.0; 3], [0.0; 3]) } else { (fold(f32::min, f32::MAX), fold(f32::max, f32::MIN)) };
    let mut bin: Vec<u8> = points.iter().flatten().flat_map(|v| v.to_le_bytes()).collect();
    let points_size = bin.len();
    bin.extend(solid.triangles.iter().flatten().flat_map(|i| i.to_le_bytes()));
    let json = serde_json::json!({
        "asset": { "version": "2.0", "generator": "steelk" },
        "scene": 0,
        "scenes": [{ "nodes": [0] }],
        "nodes": [{ "mesh": 0, "name": name }],
        "meshes": [{ "name": name, "primitives": [{ "attributes": { "POSITION": 0 }, "indices": 1, "material": 0 }] }],
        "materials": [{ "pbrMetallicRoughness": { "baseColorFactor": [0.62, 0.62, 0.6, 1.0], "metallicFactor": 0.6, "roughnessFactor": 0.5 } }],
        "buffers": [{ "byteLength": bin.len() }],
        "bufferViews": [
            { "buffer": 0, "byteOffset": 0, "byteLength": points_size, "target": 34962 },
            { "buffer": 0, "byteOffset": points_size, "byteLength": bin.len() - points_size, "target": 34963 }
        ],
        "accessors": [
            { "bufferView": 0, "componentType": 5126, "count": points.len(), "type": "VEC3", "min": low, "max": high },
            { "bufferView": 1, "componentType": 5125, "count": solid.triangles.len() * 3, "type": "SCALAR" }
        ]
    });
    let mut text = json.to_string().into_bytes();
    while !text.len().is_multiple_of(4) {
        text.push(b' ');
    }
    let total = 12 + 8 + text.len() + 8 + bin.len();
    let mut out = Vec::with_capacity(total);
    out.extend(b"glTF");
    out.extend(2u32.to_le_bytes());
    out.extend((total as u32).to_le_bytes());
    out.extend((text.len() as u32).to_le_bytes());
    out.extend(b"JSON");
    out.extend(text);
    out.extend((bin.len() as u32).to_le_bytes());
    out.extend(b"BIN\0");
    out.extend(bin);
    out
}
