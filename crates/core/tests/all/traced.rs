//! Outlines traced from pictures that were rendered from known parts: the recipe that comes of it says
//! the part.

use std::f64::consts::PI;

use glam::DVec2;
use steelk_core::evaluate::evaluate_piece;
use steelk_core::job::{
    CaliperReading, FORMAT, Job, Piece, StraightenBy, TracedElement, TracedShape, Tracing,
};
use steelk_core::quantity::{Display, InchStyle, LengthUnit};
use steelk_core::trace::Gray;
use steelk_core::traced::{TracedResult, traced};

/// Light on dark, each pixel by 5 × 5 looks.
fn rendered(wide: usize, high: usize, inside: impl Fn(DVec2) -> bool) -> Gray {
    let value = |k: usize| {
        let (x, y) = ((k % wide) as f64, (k / wide) as f64);
        let looks = (0..25).filter(|s| {
            inside(DVec2::new(x + (f64::from(s % 5) + 0.5) / 5.0, y + (f64::from(s / 5) + 0.5) / 5.0))
        });
        (40.0 + 170.0 * looks.count() as f64 / 25.0) as u8
    };
    Gray::new(wide, high, (0..wide * high).map(value).collect()).unwrap()
}

fn element(id: &str, shape: TracedShape, points: &[DVec2]) -> TracedElement {
    // A hand is off by a pixel or two.
    let hand = |(k, p): (usize, &DVec2)| {
        (*p + DVec2::new([1.3, -0.8, 0.4][k % 3], [-1.1, 0.9, 1.6][k % 3])).to_array()
    };
    TracedElement {
        id: id.into(),
        shape,
        points: points.iter().enumerate().map(hand).collect(),
        reach: 7.0,
        by_hand: false,
    }
}

fn piece(tracing: Tracing, display: Option<Display>) -> (Job, Piece) {
    let piece = Piece {
        id: "p".into(),
        mark: "P-1".into(),
        quantity: "1".into(),
        material: "s235".into(),
        thickness: "3mm".into(),
        tracing: Some(tracing),
        display,
        ..Piece::default()
    };
    (Job { format: FORMAT, ..Job::default() }, piece)
}

fn reading(from: [f64; 2], to: [f64; 2], length: &str) -> CaliperReading {
    CaliperReading { from, to, length: length.into(), reach: 6.0 }
}

/// What the traced recipe makes, with all its lines read.
fn made(job: &Job, piece: &Piece, of: &TracedResult) -> steelk_core::result::PieceResult {
    let out = evaluate_piece(job, &Piece { lines: of.lines.clone(), ..piece.clone() });
    assert!(out.made && out.faults.is_empty(), "{:?} {:?}", out.faults, of.lines);
    out
}

const MM: f64 = 5.0;

/// A link: eyes of R14 and R9 at 70 apart, their flanks tangent, holes of 12 and 8 in them. In pixels,
/// turned by
/// 12° in the picture.
fn link(p: DVec2) -> DVec2 {
    DVec2::from_angle(12f64.to_radians()).rotate((p - DVec2::new(120.0, 110.0)) / MM)
}

fn seen(p: DVec2) -> DVec2 {
    DVec2::from_angle(-12f64.to_radians()).rotate(p) * MM + DVec2::new(120.0, 110.0)
}

fn in_link(p: DVec2) -> bool {
    let q = link(p);
    let far = DVec2::new(70.0, 0.0);
    let lean = ((14.0f64 - 9.0) / 70.0).asin();
    let n = DVec2::new(lean.sin(), lean.cos());
    let flank = |s: f64| DVec2::new(n.x, n.y * s).dot(q) <= 14.0;
    let between = q.x > 14.0 * lean.sin() && q.x < 70.0 + 9.0 * lean.sin() && flank(1.0) && flank(-1.0);
    (q.length() <= 14.0 || q.distance(far) <= 9.0 || between) && q.length() > 6.0 && q.distance(far) > 4.0
}

fn link_tracing(step: &str) -> Tracing {
    let lean = ((14.0f64 - 9.0) / 70.0).asin();
    let on = |c: f64, r: f64, t: f64| seen(DVec2::new(c, 0.0) + DVec2::from_angle(t) * r);
    let up = PI / 2.0 - lean;
    let elements = vec![
        element(
            "e1",
            TracedShape::Arc,
            &[on(0.0, 14.0, up + 0.15), on(0.0, 14.0, PI), on(0.0, 14.0, -up - 0.15)],
        ),
        element(
            "e2",
            TracedShape::Line,
            &[
                on(0.0, 14.0, -up).lerp(on(70.0, 9.0, -up), 0.1),
                on(0.0, 14.0, -up).lerp(on(70.0, 9.0, -up), 0.9),
            ],
        ),
        element(
            "e3",
            TracedShape::Arc,
            &[on(70.0, 9.0, -up + 0.2), on(70.0, 9.0, 0.0), on(70.0, 9.0, up - 0.2)],
        ),
        element(
            "e4",
            TracedShape::Line,
            &[on(70.0, 9.0, up).lerp(on(0.0, 14.0, up), 0.1), on(70.0, 9.0, up).lerp(on(0.0, 14.0, up), 0.9)],
        ),
        element("e5", TracedShape::Circle, &[on(0.0, 6.0, 0.2), on(0.0, 6.0, 2.0), on(0.0, 6.0, 4.4)]),
        element("e6", TracedShape::Circle, &[on(70.0, 4.0, 0.9), on(70.0, 4.0, 3.0), on(70.0, 4.0, 5.2)]),
    ];
    Tracing {
        picture: "0".repeat(64),
        name: "link.png".into(),
        // Across the large hole, and from hole to hole on their near sides.
        readings: vec![reading(on(0.0, 6.0, 0.0).to_array(), on(0.0, 6.0, PI).to_array(), "12")],
        elements,
        step: step.into(),
        angle_step: "0.1".into(),
        ..Tracing::default()
    }
}

/// The link comes back: radii, eyes that run on into the flanks, holes about the middles of the eyes.
#[test]
fn a_link_is_said_as_it_was_rendered() {
    let picture = rendered(560, 300, in_link);
    let (job, piece) = piece(link_tracing("0.5"), None);
    let got = traced(&job, &piece, &picture);
    assert_eq!(got.trouble, "", "{got:?}");
    let out = made(&job, &piece, &got);
    // By closed form: two sectors, two trapezoids, less the holes.
    let lean = ((14.0f64 - 9.0) / 70.0).asin();
    let flank = (70.0f64 * 70.0 - 25.0).sqrt();
    let exact =
        196.0 * (PI / 2.0 + lean) + 81.0 * (PI / 2.0 - lean) + flank * (14.0 + 9.0) - PI * (36.0 + 16.0);
    let area = out.value("area");
    assert!((area - exact).abs() < 0.004 * exact, "{area} {exact} {:?}", got.lines);
    let said = serde_json::to_string(&got.lines).unwrap();
    for figure in ["\"radius\":\"14\"", "\"diameter\":\"12\"", "\"diameter\":\"8\"", "\"about\":\"start-1."] {
        assert!(said.contains(figure), "{figure}: {said}");
    }
    assert_eq!(out.flat.holes.len(), 2);
    // Within a third of a pixel, and half a step of rounding.
    let off: f64 = got.off.split(' ').next().unwrap().parse().unwrap();
    assert!(off < 0.3 / MM + 0.25, "{}", got.off);
    assert!(got.notes.iter().any(|n| n.contains("left open")), "{:?}", got.notes);
}

/// A plate with a snipped corner, in inches; half of it traced and mirrored comes to the same.
fn in_house(p: DVec2) -> bool {
    // Inches at 100 pixels: 4 wide, walls 2 high, a roof of 45° over it.
    let q = DVec2::new(p.x - 50.0, 450.0 - p.y) / 100.0;
    q.x >= 0.0
        && q.x <= 4.0
        && q.y >= 0.0
        && q.y <= 2.0 + q.x.min(4.0 - q.x)
        && q.distance(DVec2::new(2.0, 1.5)) > 0.5
}

fn house_point(x: f64, y: f64) -> DVec2 {
    DVec2::new(50.0 + 100.0 * x, 450.0 - 100.0 * y)
}

fn house(mirror: bool) -> Tracing {
    let side = |id: &str, a: [f64; 2], b: [f64; 2]| {
        let (a, b) = (house_point(a[0], a[1]), house_point(b[0], b[1]));
        element(id, TracedShape::Line, &[a.lerp(b, 0.08), a.lerp(b, 0.92)])
    };
    let mut elements = vec![
        side("e1", [0.0, 0.0], [4.0, 0.0]),
        side("e2", [4.0, 0.0], [4.0, 2.0]),
        side("e3", [4.0, 2.0], [2.0, 4.0]),
    ];
    if !mirror {
        elements.extend([side("e4", [2.0, 4.0], [0.0, 2.0]), side("e5", [0.0, 2.0], [0.0, 0.0])]);
    }
    let on = |t: f64| house_point(2.0 + 0.5 * t.cos(), 1.5 + 0.5 * t.sin());
    elements.push(element("e6", TracedShape::Circle, &[on(0.1), on(2.1), on(4.0)]));
    Tracing {
        picture: "0".repeat(64),
        name: "house.png".into(),
        readings: vec![reading(house_point(0.0, 1.0).to_array(), house_point(4.0, 1.0).to_array(), "4")],
        axis: mirror.then(|| [house_point(2.0, 0.0).to_array(), house_point(2.0, 4.0).to_array()]),
        elements,
        step: "1/16".into(),
        angle_step: "1".into(),
        ..Tracing::default()
    }
}

#[test]
fn a_house_in_inches_whole_and_by_half() {
    let picture = rendered(520, 500, in_house);
    let inches = Display { length: LengthUnit::In, inches: InchStyle::Decimal };
    for mirror in [false, true] {
        let (job, piece) = piece(house(mirror), Some(inches));
        let got = traced(&job, &piece, &picture);
        assert_eq!(got.trouble, "", "{got:?}");
        let out = made(&job, &piece, &got);
        let exact = (4.0 * 2.0 + 4.0 - PI * 0.25) * 645.16;
        assert!(
            (out.value("area") - exact).abs() < 0.01,
            "{mirror} {} {exact} {:?}",
            out.value("area"),
            got.lines
        );
        assert_eq!(got.notes.iter().any(|n| n.contains("mirrored")), mirror);
    }
}

/// Taken at an angle: the four corners of the house's walls and floor straighten it.
#[test]
fn a_leaning_picture_is_straightened_first() {
    let lean = 25f64.to_radians();
    let to = |p: DVec2| {
        let q = p - DVec2::new(250.0, 250.0);
        DVec2::new(250.0, 250.0)
            + DVec2::new(q.x, q.y * lean.cos()) * (1_500.0 / (1_500.0 + q.y * lean.sin()))
    };
    let from = |p: DVec2| {
        let d = p - DVec2::new(250.0, 250.0);
        let y = 1_500.0 * d.y / (1_500.0 * lean.cos() - d.y * lean.sin());
        DVec2::new(d.x * (1_500.0 + y * lean.sin()) / 1_500.0, y) + DVec2::new(250.0, 250.0)
    };
    let picture = rendered(520, 500, |p| in_house(from(p)));
    let mut told = house(false);
    for e in &mut told.elements {
        e.points.iter_mut().for_each(|p| *p = to(DVec2::from_array(*p)).to_array());
    }
    told.readings.clear();
    let corner = |x: f64, y: f64| to(house_point(x, y)).to_array();
    told.square = Some(StraightenBy {
        corners: [corner(0.0, 0.0), corner(4.0, 0.0), corner(4.0, 2.0), corner(0.0, 2.0)],
        wide: "4in".into(),
        high: "2in".into(),
        // The upper side is none of the picture's edges: the corners stand where they were told.
        reach: 0.0,
    });
    told.step = "1mm".into();
    let (job, piece) = piece(told, None);
    let got = traced(&job, &piece, &picture);
    assert_eq!(got.trouble, "", "{got:?}");
    let exact = (4.0 * 2.0 + 4.0 - PI * 0.25) * 645.16;
    let area = made(&job, &piece, &got).value("area");
    assert!((area - exact).abs() < 0.015 * exact, "{area} {exact}");
    assert!(got.scale.contains("straightened by its four corners"), "{}", got.scale);
}

/// A round part with nothing but circles is a disc with holes.
#[test]
fn a_disc_of_circles() {
    let c = DVec2::new(200.0, 200.0);
    let bolt = |k: u32| c + DVec2::from_angle(f64::from(k) * PI / 2.0 + 0.4) * 100.0;
    let picture = rendered(400, 400, |p| {
        p.distance(c) < 150.0 && p.distance(c) > 40.0 && (0..4).all(|k| p.distance(bolt(k)) > 15.0)
    });
    let ring = |id: &str, m: DVec2, r: f64| {
        element(id, TracedShape::Circle, &[0.3, 2.4, 4.6].map(|t| m + DVec2::from_angle(t) * r))
    };
    let mut elements = vec![ring("e1", c, 40.0), ring("e2", c, 150.0)];
    elements.extend((0..4).map(|k| ring(&format!("b{k}"), bolt(k), 15.0)));
    let readings = vec![reading([50.0, 200.0], [350.0, 200.0], "75")];
    let step = "0.5".to_string();
    let (job, piece) = piece(Tracing { elements, readings, step, ..Tracing::default() }, None);
    let got = traced(&job, &piece, &picture);
    let out = made(&job, &piece, &got);
    let exact = PI * (37.5f64.powi(2) - 100.0 - 4.0 * 3.75f64.powi(2));
    assert!(
        (out.value("area") - exact).abs() < 1e-6 * exact + 4.0 * PI * 0.25 * 8.0,
        "{} {exact}",
        out.value("area")
    );
    assert_eq!(out.flat.holes.len(), 5);
}

/// What is short is told, and the rest goes on: no scale, one side, sides that do not meet, a value that
/// is none.
#[test]
fn what_is_short_is_told() {
    let picture = rendered(520, 500, in_house);
    let trouble = |change: &dyn Fn(&mut Tracing)| {
        let mut t = house(false);
        change(&mut t);
        let (job, piece) = piece(t, None);
        traced(&job, &piece, &picture)
    };
    let none = trouble(&|t| t.readings.clear());
    assert!(
        none.trouble.contains("measure between two places") && none.elements[0].said.contains("px"),
        "{none:?}"
    );
    assert!(trouble(&|t| t.elements.truncate(1)).trouble.contains("one side encloses nothing"));
    let missing = trouble(&|t| drop(t.elements.remove(2)));
    // The wall and the far slope of the roof meet where both go on: a taller house, and no trouble.
    assert_eq!(missing.trouble, "");
    let tall = missing.outline.iter().map(|p| p[1]).fold(f64::INFINITY, f64::min);
    assert!((tall - house_point(4.0, 6.0).y).abs() < 3.0, "{tall}");
    let apart = trouble(&|t| t.elements.swap(0, 2));
    assert!(!apart.trouble.is_empty(), "{apart:?}");
    let odd = trouble(&|t| t.readings[0].length = "4 fish".into());
    assert!(odd.faults[0].field == "/readings/0/length" && !odd.trouble.is_empty(), "{odd:?}");
    let wild = trouble(&|t| {
        t.elements[0].points = vec![[1e308, -1e308], [f64::NAN, 0.0]];
        t.elements[1].reach = f64::INFINITY;
        t.axis = Some([[3.0, 3.0], [3.0, 3.0]]);
    });
    assert!(wild.elements[0].doubt.contains("no line"), "{wild:?}");
}
