//! What stands on a face of a member: lifting and anchor lugs, clamping rings, stacked blocks.

use glam::{DVec2, DVec3};

use super::plates::{Cutting, optional, positive};
use super::skeleton::Skeleton;
use crate::verbs::*;
use ground::geom::{Contour, Vertex};
use ground::reader::{Range, Reader};

/// Along a face of a member: the point on it, outwards, along, and across.
fn on_face(
    reader: &mut Reader,
    s: &Skeleton,
    member: &str,
    face: Face,
    at: &str,
) -> Option<(DVec3, DVec3, DVec3, usize)> {
    let i = s.known_member(reader, "/say/member", member)?;
    let m = &s.members[i];
    if !m.is_straight() {
        reader.refuse("/say/member", member, "this member is bent", "name a straight one");
        return None;
    }
    let at_length = reader.length("/say/at", at, Range::ZeroUp)?;
    if at_length > m.length {
        reader.refuse(
            "/say/at",
            at,
            "this is beyond the member's end",
            "write a shorter distance from its start",
        );
        return None;
    }
    let (bar, p) = (m.end(0), &s.profiles[m.profile]);
    let out = super::holes::outwards(face);
    let n = bar.y * out.x + bar.z * out.y;
    Some((bar.o + bar.d * at_length + n * p.reach(out), n, bar.d, i))
}

pub fn lug(reader: &mut Reader, s: &Skeleton, say: &LugSaid) -> Option<Vec<Cutting>> {
    let (at, n, d, i) = on_face(reader, s, &say.member, say.face, &say.at)?;
    let wall = s.profiles[s.members[i].profile].section.shape.thickness();
    let t = positive(reader, "/say/thickness", &say.thickness)?;
    let (r, eye, h) = (
        positive(reader, "/say/radius", &say.radius)?,
        positive(reader, "/say/eye", &say.eye)?,
        positive(reader, "/say/height", &say.height)?,
    );
    if eye / 2.0 >= r {
        reader.refuse(
            "/say/eye",
            &say.eye,
            "the eye is as wide as the lug",
            "write a smaller eye or a larger radius",
        );
        return None;
    }
    let base = optional(reader, "/say/base", &say.base)?;
    let mut out = Vec::new();
    if base > 0.0 {
        let (l, w) = (
            positive(reader, "/say/base_length", &say.base_length)?,
            positive(reader, "/say/base_width", &say.base_width)?,
        );
        let plate = Contour::rectangle(DVec2::new(-l, -w) / 2.0, DVec2::new(l, w) / 2.0, 0);
        out.push(
            Cutting::new("lug base", plate, base, at, d, n.cross(d)).part("base").welded(2.0 * (l + w), wall),
        );
    }
    // Upright, in the plane of member and face normal; its eye sits on the centre of its round top.
    let v = |x: f64, y: f64, bulge: f64| Vertex { p: DVec2::new(x, y), bulge, tag: 0 };
    let outline = Contour { vertices: vec![v(-r, 0.0, 0.0), v(r, 0.0, 0.0), v(r, h, 1.0), v(-r, h, 0.0)] };
    let side = d.cross(n);
    let seam = match say.weld {
        LugWeld::AllRound => 2.0 * (2.0 * r + t),
        LugWeld::Sides => 2.0 * 2.0 * r,
        LugWeld::Ends => 2.0 * t,
    };
    let mut upright = Cutting::new("lug", outline, t, at + n * base - side * (t / 2.0), d, n)
        .part("upright")
        .welded(seam, if base > 0.0 { base } else { wall });
    upright.holes = vec![Contour::circle(DVec2::new(0.0, h), eye / 2.0, 0)];
    upright.lifting = true;
    out.push(upright);
    Some(out)
}

pub fn ring_clamp(reader: &mut Reader, s: &Skeleton, say: &RingSaid) -> Option<Vec<Cutting>> {
    let i = s.known_member(reader, "/say/member", &say.member)?;
    let (m, p) = (&s.members[i], &s.profiles[s.members[i].profile]);
    if !p.section.shape.is_round() || !m.is_straight() {
        reader.refuse(
            "/say/member",
            &say.member,
            "a ring clamps a straight round member",
            "name a tube or a round bar",
        );
        return None;
    }
    let at = reader.length("/say/at", &say.at, Range::ZeroUp)?;
    let (outside, width) =
        (positive(reader, "/say/outside", &say.outside)?, positive(reader, "/say/width", &say.width)?);
    let clearance = optional(reader, "/say/clearance", &say.clearance)?;
    let (split, ear) = (positive(reader, "/say/split", &say.split)?, positive(reader, "/say/ear", &say.ear)?);
    let (t, bolt) =
        (positive(reader, "/say/thickness", &say.thickness)?, positive(reader, "/say/bolt", &say.bolt)?);
    let (big, small) = (outside / 2.0, p.section.shape.size().x / 2.0 + clearance);
    let told = |reader: &mut Reader, path: &str, text: &str, usual: f64| {
        if text.trim().is_empty() { Some(usual) } else { positive(reader, path, text) }
    };
    let ear_width = told(reader, "/say/ear_width", &say.ear_width, width)?;
    let bolt_at = told(reader, "/say/bolt_at", &say.bolt_at, ear / 2.0)?;
    if bolt_at - bolt / 2.0 < 0.25 * bolt || ear - bolt_at < 0.75 * bolt {
        let (least, most) =
            (reader.display.length_unit(0.75 * bolt), reader.display.length_unit(ear - 0.75 * bolt));
        reader.refuse(
            "/say/bolt_at",
            &say.bolt_at,
            "the bolt hole leaves too little of the ear",
            format!("write from {least} to {most}, or longer ears"),
        );
        return None;
    }
    if big - small < 0.5 || split >= small || bolt * 1.5 >= ear.min(ear_width) {
        reader.refuse(
            "/say/outside",
            &say.outside,
            "the ring has no wall, the split is too wide, or the ears too small for the bolt",
            "check outside, split, ear and bolt",
        );
        return None;
    }
    let bar = m.end(0);
    let (a, b) = ((split / 2.0 / big).asin(), (split / 2.0 / small).asin());
    let turn = |a: f64| std::f64::consts::TAU - 2.0 * a;
    let on = |r: f64, a: f64| DVec2::from_angle(a) * r;
    let v = |p: DVec2, bulge: f64| Vertex { p, bulge, tag: 0 };
    // Two arcs each, so that no bulge passes a half circle.
    let arc = |r: f64, from: f64, sweep: f64| {
        [v(on(r, from), (sweep / 8.0).tan()), v(on(r, from + sweep / 2.0), (sweep / 8.0).tan())]
    };
    let mut vertices = arc(big, a, turn(a)).to_vec();
    vertices.push(v(on(big, -a), 0.0));
    vertices.extend(arc(small, -b, -turn(b)));
    vertices.push(v(on(small, b), 0.0));
    let o = bar.o + bar.d * (at - width / 2.0);
    let mut ring = Cutting::new("clamp ring", Contour { vertices }, width, o, bar.y, bar.z);
    ring.tube = Some([outside, big - small]);
    let mut out = vec![ring];
    let foot = (big * big - split * split / 4.0).sqrt();
    for (part, side) in [("ear-1", 1.0), ("ear-2", -1.0)] {
        let plate =
            Contour::rectangle(DVec2::new(0.0, -ear_width / 2.0), DVec2::new(ear, ear_width / 2.0), 0);
        // Outwards along y of the section, across the width along the bar; thickness away from the split.
        let o = bar.o + bar.d * at + bar.y * foot + bar.z * (side * split / 2.0);
        let across = if side > 0.0 { -bar.d } else { bar.d };
        let mut plate = Cutting::new("clamp ear", plate, t, o, bar.y, across)
            .part(part)
            .welded(2.0 * ear_width, big - small);
        if plate.z.dot(bar.z) * side < 0.0 {
            plate.y = -plate.y;
            plate.z = -plate.z;
        }
        plate.holes = vec![Contour::circle(DVec2::new(bolt_at, 0.0), bolt / 2.0, 0)];
        out.push(plate);
    }
    Some(out)
}

pub fn stack(reader: &mut Reader, s: &Skeleton, say: &StackSaid) -> Option<Vec<Cutting>> {
    let node = s.known(reader, "/say/at", &say.at)?;
    let mut o = s.nodes[node].at;
    let mut out = Vec::new();
    for (i, block) in say.blocks.iter().enumerate().take(50) {
        let at = |f: &str| format!("/say/blocks/{i}/{f}");
        let (l, w) =
            (positive(reader, &at("length"), &block.length)?, positive(reader, &at("width"), &block.width)?);
        let h = positive(reader, &at("height"), &block.height)?;
        let outline = Contour::rectangle(DVec2::new(-l, -w) / 2.0, DVec2::new(l, w) / 2.0, 0);
        let call = if block.name.trim().is_empty() { "block" } else { block.name.trim() };
        let weld = if i == 0 { 0.0 } else { 2.0 * (l + w) };
        out.push(
            Cutting::new(call, outline, h, o, DVec3::X, DVec3::Y).part(&format!("{}", i + 1)).welded(weld, h),
        );
        o.z += h;
    }
    Some(out)
}
