//! The text of a STEP file.

use std::collections::HashMap;
use std::fmt::Write;

use glam::DVec3;

use super::shell::{Curve, Shell, Surface};

struct Out {
    body: String,
    next: usize,
    /// Entities told already, by their text.
    known: HashMap<String, usize>,
}

/// A number with its point.
fn real(v: f64) -> String {
    // Twelve places of a millimetre are below anything; zero has no sign.
    let v = (v * 1e12).round() / 1e12;
    let text = format!("{}", if v == 0.0 { 0.0 } else { v });
    if text.contains('.') { text } else { format!("{text}.") }
}

/// Letters that the format knows; others by their number (ISO 10303-21, \X2\).
fn text(t: &str) -> String {
    let mut out = String::new();
    for c in t.chars() {
        match c {
            '\'' => out.push_str("''"),
            '\\' => out.push_str("\\\\"),
            ' '..='~' => out.push(c),
            c if c.is_control() => out.push(' '),
            c => {
                let mut units = [0u16; 2];
                let wide: String = c.encode_utf16(&mut units).iter().map(|u| format!("{u:04X}")).collect();
                let _ = write!(out, "\\X2\\{wide}\\X0\\");
            }
        }
    }
    out
}

impl Out {
    fn add(&mut self, entity: String) -> usize {
        self.next += 1;
        let _ = writeln!(self.body, "#{}={entity};", self.next);
        self.next
    }

    /// The same text is one entity.
    fn once(&mut self, entity: String) -> usize {
        if let Some(n) = self.known.get(&entity) {
            return *n;
        }
        let n = self.add(entity.clone());
        self.known.insert(entity, n);
        n
    }

    fn point(&mut self, p: DVec3) -> usize {
        self.once(format!("CARTESIAN_POINT('',({},{},{}))", real(p.x), real(p.y), real(p.z)))
    }

    fn way(&mut self, d: DVec3) -> usize {
        self.once(format!("DIRECTION('',({},{},{}))", real(d.x), real(d.y), real(d.z)))
    }

    fn frame(&mut self, at: DVec3, axis: DVec3) -> usize {
        let axis = axis.normalize_or_zero();
        let across = axis.any_orthonormal_vector();
        let (at, axis, across) = (self.point(at), self.way(axis), self.way(across));
        self.once(format!("AXIS2_PLACEMENT_3D('',#{at},#{axis},#{across})"))
    }

    fn list(ids: &[usize]) -> String {
        ids.iter().map(|i| format!("#{i}")).collect::<Vec<_>>().join(",")
    }

    fn poles(&mut self, poles: &[DVec3]) -> String {
        let ids: Vec<usize> = poles.iter().map(|p| self.point(*p)).collect();
        Self::list(&ids)
    }
}

/// Knots of cubic arcs end to end, and how often each counts.
fn knots(poles: usize) -> (String, String) {
    let arcs = (poles - 1) / 3;
    let often: Vec<&str> = (0..=arcs).map(|k| if k == 0 || k == arcs { "4" } else { "3" }).collect();
    let at: Vec<String> = (0..=arcs).map(|k| real(k as f64)).collect();
    (often.join(","), at.join(","))
}

fn surface(out: &mut Out, s: &Surface) -> (usize, bool) {
    match s {
        Surface::Plane { at, normal } => {
            let frame = out.frame(*at, *normal);
            (out.once(format!("PLANE('',#{frame})")), true)
        }
        Surface::Cylinder { at, axis, radius, inside } => {
            let frame = out.frame(*at, *axis);
            (out.once(format!("CYLINDRICAL_SURFACE('',#{frame},{})", real(*radius))), !inside)
        }
        Surface::Cone { at, axis, radius, half_angle, inside } => {
            let frame = out.frame(*at, *axis);
            let cone = format!("CONICAL_SURFACE('',#{frame},{},{})", real(*radius), real(*half_angle));
            (out.once(cone), !inside)
        }
        Surface::Torus { at, axis, major, minor, inside } => {
            let frame = out.frame(*at, *axis);
            let torus = format!("TOROIDAL_SURFACE('',#{frame},{},{})", real(*major), real(*minor));
            (out.once(torus), !inside)
        }
        Surface::Ruled { from, to } => {
            let rows: Vec<String> =
                from.iter().zip(to).map(|(a, b)| format!("({})", out.poles(&[*a, *b]))).collect();
            let (often, at) = knots(from.len());
            let ruled = format!(
                "B_SPLINE_SURFACE_WITH_KNOTS('',3,1,({}),.UNSPECIFIED.,.F.,.F.,.F.,({often}),(2,2),\
                 ({at}),(0.,1.),.UNSPECIFIED.)",
                rows.join(",")
            );
            (out.add(ruled), true)
        }
    }
}

fn curve(out: &mut Out, ends: [DVec3; 2], c: &Curve) -> usize {
    match c {
        Curve::Line => {
            let way = (ends[1] - ends[0]).normalize_or_zero();
            let (at, way) = (out.point(ends[0]), out.way(way));
            let along = out.once(format!("VECTOR('',#{way},1.)"));
            out.add(format!("LINE('',#{at},#{along})"))
        }
        Curve::Circle { at, axis } => {
            // Its own start is where the angle is nothing.
            let radius = (ends[0] - *at).length();
            let axis = axis.normalize_or_zero();
            let across = (ends[0] - *at).normalize_or_zero();
            let (at, axis, across) = (out.point(*at), out.way(axis), out.way(across));
            let frame = out.once(format!("AXIS2_PLACEMENT_3D('',#{at},#{axis},#{across})"));
            out.add(format!("CIRCLE('',#{frame},{})", real(radius)))
        }
        Curve::Ellipse { at, axis, major, minor } => {
            let (half, across) = (major.length(), major.normalize_or_zero());
            let (at, axis, across) = (out.point(*at), out.way(axis.normalize_or_zero()), out.way(across));
            let frame = out.once(format!("AXIS2_PLACEMENT_3D('',#{at},#{axis},#{across})"));
            out.add(format!("ELLIPSE('',#{frame},{},{})", real(half), real(*minor)))
        }
        Curve::Cubics(poles) => {
            let (often, at) = knots(poles.len());
            let list = out.poles(poles);
            out.add(format!(
                "B_SPLINE_CURVE_WITH_KNOTS('',3,({list}),.UNSPECIFIED.,.F.,.F.,({often}),({at}),\
                 .UNSPECIFIED.)"
            ))
        }
    }
}

/// A body with its name and what it is made of.
pub struct Solid {
    pub shell: Shell,
    pub name: String,
    pub material: String,
}

/// Solids under one name, each with its own and the colour of its material.
pub fn write(solids: &[Solid], name: &str, material: &str, saved_at: i64) -> Vec<u8> {
    let mut out = Out { body: String::new(), next: 0, known: HashMap::new() };
    let name = text(name);
    let context = out.add("APPLICATION_CONTEXT('automotive design')".into());
    out.add(format!(
        "APPLICATION_PROTOCOL_DEFINITION('international standard','automotive_design',2000,#{context})"
    ));
    let about = out.add(format!("PRODUCT_CONTEXT('',#{context},'mechanical')"));
    let product = out.add(format!("PRODUCT('{name}','{name}','{}',(#{about}))", text(material)));
    out.add(format!("PRODUCT_RELATED_PRODUCT_CATEGORY('part','',(#{product}))"));
    let formation = out.add(format!("PRODUCT_DEFINITION_FORMATION('','',#{product})"));
    let design = out.add(format!("PRODUCT_DEFINITION_CONTEXT('part definition',#{context},'design')"));
    let definition = out.add(format!("PRODUCT_DEFINITION('design','',#{formation},#{design})"));
    let shape = out.add(format!("PRODUCT_DEFINITION_SHAPE('','',#{definition})"));
    let mm = out.add("(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.))".into());
    let rad = out.add("(NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.))".into());
    let sr = out.add("(NAMED_UNIT(*)SI_UNIT($,.STERADIAN.)SOLID_ANGLE_UNIT())".into());
    let exact = out.add(format!(
        "UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(1.E-06),#{mm},'distance_accuracy_value','')"
    ));
    let units = out.add(format!(
        "(GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((#{exact}))\
         GLOBAL_UNIT_ASSIGNED_CONTEXT((#{mm},#{rad},#{sr}))REPRESENTATION_CONTEXT('',''))"
    ));
    let bodies: Vec<usize> = solids.iter().map(|s| solid(&mut out, &s.shell, &s.name)).collect();
    // A reader turns the body by where this stands: told with its x, not with any that is square to z.
    let (at, up, across) = (out.point(DVec3::ZERO), out.way(DVec3::Z), out.way(DVec3::X));
    let origin = out.once(format!("AXIS2_PLACEMENT_3D('',#{at},#{up},#{across})"));
    let drawn = out.add(format!(
        "ADVANCED_BREP_SHAPE_REPRESENTATION('{name}',(#{origin},{}),#{units})",
        Out::list(&bodies)
    ));
    out.add(format!("SHAPE_DEFINITION_REPRESENTATION(#{shape},#{drawn})"));
    for (body, s) in bodies.iter().zip(solids) {
        colour(&mut out, *body, &s.material, units);
    }
    let (stamp, body) = (stamp(saved_at), out.body);
    format!(
        "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('{name}'),'2;1');\n\
         FILE_NAME('{name}','{stamp}',(''),(''),'Steelk','Steelk','');\n\
         FILE_SCHEMA(('AUTOMOTIVE_DESIGN {{ 1 0 10303 214 1 1 1 1 }}'));\nENDSEC;\n\
         DATA;\n{body}ENDSEC;\nEND-ISO-10303-21;\n"
    )
    .into_bytes()
}

/// The entities of one body; its own.
fn solid(out: &mut Out, s: &Shell, name: &str) -> usize {
    let points: Vec<usize> = s
        .points
        .iter()
        .map(|p| {
            let at = out.point(*p);
            out.add(format!("VERTEX_POINT('',#{at})"))
        })
        .collect();
    let edges: Vec<usize> = s
        .edges
        .iter()
        .map(|e| {
            let along = curve(out, e.ends.map(|i| s.points[i]), &e.curve);
            out.add(format!("EDGE_CURVE('',#{},#{},#{along},.T.)", points[e.ends[0]], points[e.ends[1]]))
        })
        .collect();
    let mut faces = Vec::new();
    for f in &s.faces {
        let mut bounds = Vec::new();
        for (k, l) in f.loops.iter().enumerate() {
            let run: Vec<usize> = l
                .iter()
                .map(|(e, forward)| {
                    let way = if *forward { "T" } else { "F" };
                    out.add(format!("ORIENTED_EDGE('',*,*,#{},.{way}.)", edges[*e]))
                })
                .collect();
            let ring = out.add(format!("EDGE_LOOP('',({}))", Out::list(&run)));
            let kind = if k == 0 { "FACE_OUTER_BOUND" } else { "FACE_BOUND" };
            bounds.push(out.add(format!("{kind}('',#{ring},.T.)")));
        }
        let (on, same) = surface(out, &f.surface);
        let same = if same { "T" } else { "F" };
        faces.push(out.add(format!("ADVANCED_FACE('',({}),#{on},.{same}.)", Out::list(&bounds))));
    }
    let shell = out.add(format!("CLOSED_SHELL('',({}))", Out::list(&faces)));
    out.add(format!("MANIFOLD_SOLID_BREP('{}',#{shell})", text(name)))
}

/// Grey, a little apart for each material: by the letters of its name.
fn colour(out: &mut Out, solid: usize, material: &str, units: usize) {
    let seed = material.bytes().fold(7u32, |h, b| h.wrapping_mul(31).wrapping_add(u32::from(b)));
    let part = |shift: u32| 0.45 + 0.3 * f64::from(seed >> shift & 0xff) / 255.0;
    let [r, g, b] = [part(0), part(8), part(16)].map(|v| real((v * 100.0).round() / 100.0));
    let rgb = out.add(format!("COLOUR_RGB('{}',{r},{g},{b})", text(material)));
    let fill = out.add(format!("FILL_AREA_STYLE_COLOUR('',#{rgb})"));
    let fill = out.add(format!("FILL_AREA_STYLE('',(#{fill}))"));
    let fill = out.add(format!("SURFACE_STYLE_FILL_AREA(#{fill})"));
    let side = out.add(format!("SURFACE_SIDE_STYLE('',(#{fill}))"));
    let usage = out.add(format!("SURFACE_STYLE_USAGE(.BOTH.,#{side})"));
    let style = out.add(format!("PRESENTATION_STYLE_ASSIGNMENT((#{usage}))"));
    let item = out.add(format!("STYLED_ITEM('',(#{style}),#{solid})"));
    out.add(format!("MECHANICAL_DESIGN_GEOMETRIC_PRESENTATION_REPRESENTATION('',(#{item}),#{units})"));
}

fn stamp(saved_at: i64) -> String {
    use chrono::{Datelike, Timelike};
    let told = |t: chrono::DateTime<chrono::Utc>| {
        let (date, time) = ((t.year(), t.month(), t.day()), (t.hour(), t.minute(), t.second()));
        format!("{:04}-{:02}-{:02}T{:02}:{:02}:{:02}", date.0, date.1, date.2, time.0, time.1, time.2)
    };
    chrono::DateTime::from_timestamp(saved_at, 0).map_or_else(String::new, told)
}
