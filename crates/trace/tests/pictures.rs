//! Pictures rendered from known parts: what is traced of them is what they were rendered from. The renderer
//! knows inside from outside and nothing else; no fit of ours is in it.

use glam::{DMat3, DVec2, DVec3};
use jpeg_encoder::{ColorType, Encoder};
use proptest::prelude::*;
use std::f64::consts::{PI, TAU};
use trace::{
    Carrier, Gray, Plane, PlaneError, Reading, Shape, Square, chain, corners, fit_circle, fit_line, follow,
    mirrored, read, snap,
};

/// A number between 0 and 1 that is told by its place only.
fn noise(x: usize, y: usize) -> f64 {
    let mut h =
        (x as u64).wrapping_mul(0x9E37_79B9_7F4A_7C15) ^ (y as u64).wrapping_mul(0xC2B2_AE3D_27D4_EB4F);
    h ^= h >> 29;
    h = h.wrapping_mul(0xBF58_476D_1CE4_E5B9);
    (h >> 11) as f64 / (1u64 << 53) as f64
}

/// Light metal on a dark bench, each pixel by 6 × 6 looks, grained, softened by a lens.
fn rendered(wide: usize, high: usize, inside: impl Fn(DVec2) -> bool) -> Gray {
    let sharp: Vec<f64> = (0..wide * high)
        .map(|k| {
            let (x, y) = ((k % wide) as f64, (k / wide) as f64);
            let looks = (0..36).filter(|s| {
                inside(DVec2::new(x + (f64::from(s % 6) + 0.5) / 6.0, y + (f64::from(s / 6) + 0.5) / 6.0))
            });
            60.0 + 140.0 * looks.count() as f64 / 36.0
        })
        .collect();
    let at = |x: i64, y: i64| {
        sharp[y.clamp(0, high as i64 - 1) as usize * wide + x.clamp(0, wide as i64 - 1) as usize]
    };
    let soft = |k: usize| {
        let (x, y) = ((k % wide) as i64, (k / wide) as i64);
        let mut sum = 0.0;
        for (dx, dy) in (-1..=1i64).flat_map(|i| (-1..=1i64).map(move |j| (i, j))) {
            let weight = [0.5, 0.25][dx.unsigned_abs() as usize] * [0.5, 0.25][dy.unsigned_abs() as usize];
            sum += weight * at(x + dx, y + dy);
        }
        (sum + 10.0 * (noise(x as usize, y as usize) - 0.5)).clamp(0.0, 255.0) as u8
    };
    Gray::new(wide, high, (0..wide * high).map(soft).collect()).unwrap()
}

fn in_rounded(p: DVec2, size: DVec2, r: f64) -> bool {
    let q = (p - size / 2.0).abs() - (size / 2.0 - r);
    q.max(DVec2::ZERO).length() <= r && (p - size / 2.0).abs().cmple(size / 2.0).all()
}

/// In pixels, y down: a plate with rounded corners, two holes of other sizes, a slot.
const AT: DVec2 = DVec2::new(60.3, 45.8);
const SIZE: DVec2 = DVec2::new(400.0, 260.0);
const CORNER: f64 = 42.5;
const HOLES: [(DVec2, f64); 2] = [(DVec2::new(110.2, 90.6), 31.25), (DVec2::new(300.7, 170.1), 18.4)];

fn plate(p: DVec2) -> bool {
    let p = p - AT;
    in_rounded(p, SIZE, CORNER) && HOLES.iter().all(|(c, r)| p.distance(*c) > *r)
}

fn pixels() -> Plane {
    Plane::scaled(DVec2::ONE)
}

/// A hand that is off by up to four pixels.
fn hand(p: DVec2, k: usize) -> DVec2 {
    p + 8.0 * DVec2::new(noise(k, 3) - 0.5, noise(3, k) - 0.5)
}

/// Every figure of the picture within 0.3 pixel: radii and middles, sides, rounded corners.
#[test]
fn a_rendered_part_comes_back_within_a_third_of_a_pixel() {
    let picture = rendered(520, 360, plate);
    let plane = pixels();
    for (n, (c, r)) in HOLES.iter().enumerate() {
        let told: Vec<DVec2> = [0.3, 2.2, 4.9]
            .iter()
            .enumerate()
            .map(|(k, t)| hand(AT + *c + DVec2::from_angle(*t) * *r, 10 * n + k))
            .collect();
        let got = follow(Some(&picture), &plane, Shape::Circle, &told, 8.0).unwrap();
        let Carrier::Arc { circle, .. } = got.carrier else { panic!("{got:?}") };
        assert!((circle.radius - r).abs() < 0.3, "{circle:?} {r}");
        assert!(plane.pixel(circle.centre).distance(AT + *c) < 0.3, "{circle:?}");
        assert!(got.seen > 0.9 && got.rms < 0.3, "{got:?}");
    }
    let sides = [
        (DVec2::new(CORNER, 0.0), DVec2::new(SIZE.x - CORNER, 0.0)),
        (DVec2::new(SIZE.x, CORNER), DVec2::new(SIZE.x, SIZE.y - CORNER)),
        (DVec2::new(SIZE.x - CORNER, SIZE.y), DVec2::new(CORNER, SIZE.y)),
        (DVec2::new(0.0, SIZE.y - CORNER), DVec2::new(0.0, CORNER)),
    ];
    let inner = [
        DVec2::new(SIZE.x - CORNER, CORNER),
        SIZE - CORNER,
        DVec2::new(CORNER, SIZE.y - CORNER),
        DVec2::splat(CORNER),
    ];
    let mut all = Vec::new();
    for (k, (a, b)) in sides.iter().enumerate() {
        let told = [hand(AT + *a, 50 + k), hand(AT + *b, 60 + k)];
        let line = follow(Some(&picture), &plane, Shape::Line, &told, 8.0).unwrap();
        for t in [0.1, 0.5, 0.9] {
            let p = plane.pixel(line.carrier.at(t).0) - AT;
            let off = if k % 2 == 0 { p.y - a.y } else { p.x - a.x };
            assert!(off.abs() < 0.3, "side {k}: {off}");
        }
        let corner = |t: f64| AT + inner[k] + DVec2::from_angle(t + PI / 2.0 * (k as f64 - 1.0)) * CORNER;
        let told: Vec<DVec2> =
            [0.15, 0.75, 1.4].iter().enumerate().map(|(i, t)| hand(corner(*t), 70 + 3 * k + i)).collect();
        let arc = follow(Some(&picture), &plane, Shape::Arc, &told, 8.0).unwrap();
        let Carrier::Arc { circle, .. } = arc.carrier else { panic!("{arc:?}") };
        assert!((circle.radius - CORNER).abs() < 0.6, "corner {k}: {circle:?}");
        all.extend([line.carrier, arc.carrier]);
    }
    // Joined: every corner runs on from its sides, and the whole encloses what was drawn.
    let outline = chain(all, 1.5);
    assert!(outline.apart.is_empty() && outline.tangent.iter().all(|t| *t), "{outline:?}");
    let exact = SIZE.x * SIZE.y - (4.0 - PI) * CORNER * CORNER;
    let around = 2.0 * (SIZE.x + SIZE.y) - (8.0 - TAU) * CORNER;
    let contour = outline.contour();
    assert!((contour.area() - exact).abs() < 0.3 * around, "{} {exact}", contour.area());
    assert!((contour.perimeter() - around).abs() < 1.2, "{} {around}", contour.perimeter());
    // And so the other way round.
    assert!((outline.reversed().contour().signed_area() + contour.signed_area()).abs() < 1e-6);
}

/// Single places lie on the edge, from either side of it.
#[test]
fn a_place_snaps_onto_the_edge() {
    let picture = rendered(520, 360, plate);
    for k in 0..40 {
        let (c, r) = HOLES[k % 2];
        let t = TAU * k as f64 / 40.0;
        let told = AT + c + DVec2::from_angle(t) * (r + 5.0 * (noise(k, 9) - 0.5));
        let got = snap(&picture, told, 8.0).unwrap();
        assert!((got.distance(AT + c) - r).abs() < 0.3, "{k}: {}", got.distance(AT + c) - r);
    }
    assert!(snap(&picture, AT + DVec2::new(200.0, 130.0), 8.0).is_none(), "there is no edge in the middle");
}

/// The bench as a camera sees it that leans by 25°: straightened by the plate's four sides, every figure
/// within
/// half a pixel of what it is square from above.
#[test]
fn a_leaning_picture_is_straightened() {
    let lean = 25f64.to_radians();
    // A plate of 400 × 260 with sharp corners; a camera 1,400 above its middle.
    let to = |p: DVec2| {
        let q = p - DVec2::new(200.0, 130.0);
        let (y, z) = (q.y * lean.cos(), q.y * lean.sin());
        DVec2::new(280.0, 200.0) + DVec2::new(q.x, y) * (1_400.0 / (1_400.0 + z))
    };
    // Its inverse by hand: y from the second equation, then x.
    let from = |p: DVec2| {
        let d = p - DVec2::new(280.0, 200.0);
        let qy = 1_400.0 * d.y / (1_400.0 * lean.cos() - d.y * lean.sin());
        DVec2::new(d.x * (1_400.0 + qy * lean.sin()) / 1_400.0, qy) + DVec2::new(200.0, 130.0)
    };
    assert!(from(to(DVec2::new(31.0, 222.0))).distance(DVec2::new(31.0, 222.0)) < 1e-9);
    let sheet = |p: DVec2| {
        p.cmpge(DVec2::ZERO).all() && p.cmple(SIZE).all() && HOLES.iter().all(|(c, r)| p.distance(*c) > *r)
    };
    let picture = rendered(560, 400, |p| sheet(from(p)));
    let rim = [DVec2::ZERO, DVec2::new(SIZE.x, 0.0), SIZE, DVec2::new(0.0, SIZE.y)];
    let told: [DVec2; 4] = std::array::from_fn(|k| hand(to(rim[k]), 30 + k));
    let found = corners(&picture, told, 8.0);
    for (k, p) in found.iter().enumerate() {
        assert!(p.distance(to(rim[k])) < 0.4, "corner {k}: {}", p.distance(to(rim[k])));
    }
    let plane = Plane::of_square(&Square { corners: found, wide: SIZE.x, high: SIZE.y }).unwrap();
    for (n, (c, r)) in HOLES.iter().enumerate() {
        let told: Vec<DVec2> =
            (0..4).map(|k| hand(to(*c + DVec2::from_angle(0.4 + 1.5 * k as f64) * *r), 5 * n + k)).collect();
        let got = follow(Some(&picture), &plane, Shape::Circle, &told, 8.0).unwrap();
        let Carrier::Arc { circle, .. } = got.carrier else { panic!("{got:?}") };
        // y runs up from the first corner.
        let centre = DVec2::new(circle.centre.x, -circle.centre.y);
        assert!((circle.radius - r).abs() < 0.5 && centre.distance(*c) < 0.5, "{circle:?} {c} {r}");
    }
}

/// Closed forms: a scale from one reading; two that disagree tell a stretched picture; what cannot be is
/// refused.
#[test]
fn readings_give_the_scale() {
    let r = |from: [f64; 2], to: [f64; 2], length| Reading { from: from.into(), to: to.into(), length };
    let one = Plane::of_readings(&[r([10.0, 10.0], [10.0, 210.0], 50.0)], 0.003).unwrap();
    assert_eq!(one.scale, DVec2::splat(0.25));
    assert!(one.mm(DVec2::new(4.0, 8.0)).distance(DVec2::new(1.0, -2.0)) < 1e-12);
    let near = [r([0.0, 0.0], [400.0, 0.0], 100.0), r([0.0, 0.0], [0.0, 400.0], 100.1)];
    assert_eq!(
        Plane::of_readings(&near, 0.003).unwrap().scale.x,
        Plane::of_readings(&near, 0.003).unwrap().scale.y
    );
    let apart = [r([0.0, 0.0], [400.0, 0.0], 100.0), r([0.0, 0.0], [0.0, 400.0], 103.0)];
    let two = Plane::of_readings(&apart, 0.003).unwrap();
    assert!(two.scale.distance(DVec2::new(0.25, 0.2575)) < 1e-12, "{two:?}");
    let aslant = [
        r([0.0, 0.0], [300.0, 400.0], (75.0f64.powi(2) + 103.0f64.powi(2)).sqrt()),
        r([0.0, 0.0], [0.0, 400.0], 103.0),
    ];
    assert!(Plane::of_readings(&aslant, 0.003).unwrap().scale.distance(DVec2::new(0.25, 0.2575)) < 1e-9);
    assert_eq!(Plane::of_readings(&[], 0.003), Err(PlaneError::NoScale));
    assert_eq!(Plane::of_readings(&[r([5.0, 5.0], [5.0, 5.0], 9.0)], 0.003), Err(PlaneError::NoLength));
    let same_way = [r([0.0, 0.0], [400.0, 0.0], 100.0), r([0.0, 0.0], [200.0, 0.0], 90.0)];
    assert_eq!(Plane::of_readings(&same_way, 0.003), Err(PlaneError::Readings));
    let crossed = [[0.0, 0.0], [100.0, 100.0], [100.0, 0.0], [0.0, 100.0]].map(DVec2::from);
    assert_eq!(
        Plane::of_square(&Square { corners: crossed, wide: 1.0, high: 1.0 }),
        Err(PlaneError::Corners)
    );
}

/// Half a link, mirrored: its side across the axis and its end arcs are one with their images.
#[test]
fn half_an_outline_is_mirrored() {
    // Two half circles of 20 about (0, ±60), joined by lines: the right half, from the upper end down.
    let arc = |y: f64, from: f64, to: f64| {
        let at = |t: f64| DVec2::new(0.0, y) + DVec2::from_angle(t) * 20.0;
        Carrier::through(Shape::Arc, &[at(from), at((from + to) / 2.0), at(to)]).unwrap()
    };
    let line = |a: [f64; 2], b: [f64; 2]| Carrier::through(Shape::Line, &[a.into(), b.into()]).unwrap();
    let half = [arc(60.0, 1.4, 0.1), line([20.0, 55.0], [20.0, -55.0]), arc(-60.0, -0.1, -1.4)];
    let axis = fit_line(&[DVec2::new(0.0, -1.0), DVec2::new(0.0, 1.0)]).unwrap();
    let whole = mirrored(&half, &axis, 0.5);
    assert_eq!(whole.len(), 4, "{whole:?}");
    let outline = chain(whole, 0.5);
    assert!(outline.apart.is_empty() && outline.tangent.iter().all(|t| *t), "{outline:?}");
    assert!(
        (outline.contour().area() - (40.0 * 120.0 + PI * 400.0)).abs() < 1e-6,
        "{}",
        outline.contour().area()
    );
    // A half that ends on the axis in corners: a triangle of its two legs.
    let roof = [line([0.0, 30.0], [40.0, -10.0]), line([40.0, -10.0], [1.0, -10.0])];
    let outline = chain(mirrored(&roof, &axis, 0.5), 0.5);
    assert_eq!(outline.sides.len(), 3, "the floor is one with its image");
    assert!((outline.contour().area() - 1600.0).abs() < 1e-6);
}

/// The picture stands as it was taken: a JPEG that says that it lies on its side is turned; all eight ways
/// (CIPA DC-008: where row 0 and column 0 are seen).
#[test]
fn rotation_of_its_data_is_honoured() {
    let (wide, high) = (40u16, 24u16);
    // Light in the stored upper left corner, middling along the rest of row 0.
    let value = |k: u32| match (k % 40, k / 40) {
        (0..10, 0..6) => 235,
        (_, 0..6) => 130,
        _ => 20,
    };
    let pixels: Vec<u8> = (0..u32::from(wide) * u32::from(high)).map(value).collect();
    let exif = |turn: u8, little: bool| {
        // TIFF head, one entry: orientation (0x0112), short.
        let mut e = b"Exif\0\0".to_vec();
        if little {
            e.extend(b"II*\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0");
            e.extend([turn, 0, 0, 0, 0, 0, 0, 0]);
        } else {
            e.extend(b"MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01");
            e.extend([0, turn, 0, 0, 0, 0, 0, 0]);
        }
        e
    };
    // Row 0 and column 0 as seen: side by side of the frame.
    let seen = ["", "tl", "tr", "br", "bl", "lt", "rt", "rb", "lb"];
    for turn in 1..=8u8 {
        let mut out = Vec::new();
        let mut encoder = Encoder::new(&mut out, 98);
        encoder.add_app_segment(1, exif(turn, turn % 2 == 0)).unwrap();
        encoder.encode(&pixels, wide, high, ColorType::Luma).unwrap();
        let got = read(&out).unwrap();
        let [row, column] = <[u8; 2]>::try_from(seen[turn as usize].as_bytes()).unwrap();
        assert_eq!((got.wide, got.high), if turn < 5 { (40, 24) } else { (24, 40) }, "{turn}");
        let (w, h) = (got.wide as f64, got.high as f64);
        // Where the light corner lies, and where the far end of row 0 does.
        let edge = |side: u8, p: DVec2, in_by: f64| match side {
            b'l' => DVec2::new(in_by, p.y),
            b'r' => DVec2::new(w - in_by, p.y),
            b't' => DVec2::new(p.x, in_by),
            _ => DVec2::new(p.x, h - in_by),
        };
        let corner = edge(column, edge(row, DVec2::ZERO, 3.0), 4.0);
        let far = edge(column, edge(row, DVec2::ZERO, 3.0), 34.0);
        assert!(got.at(corner) > 200.0, "{turn}: {}", got.at(corner));
        assert!((100.0..170.0).contains(&got.at(far)), "{turn}: {}", got.at(far));
    }
}

/// Colours, palettes and sixteen bits of a PNG come to the same grey (BT.709 by hand).
#[test]
fn every_kind_of_png_is_grey() {
    let encoded = |color: png::ColorType, depth: png::BitDepth, palette: Option<&[u8]>, data: &[u8]| {
        let mut out = Vec::new();
        let mut encoder = png::Encoder::new(&mut out, 2, 2);
        encoder.set_color(color);
        encoder.set_depth(depth);
        palette.into_iter().for_each(|p| encoder.set_palette(p.to_vec()));
        encoder.write_header().unwrap().write_image_data(data).unwrap();
        read(&out).unwrap()
    };
    let orange = (255.0f64 * 0.2126 + 128.0 * 0.7152 + 7.0 * 0.0722).round();
    let rgb = encoded(png::ColorType::Rgb, png::BitDepth::Eight, None, &[255, 128, 7].repeat(4));
    let rgba = encoded(png::ColorType::Rgba, png::BitDepth::Eight, None, &[255, 128, 7, 90].repeat(4));
    let table =
        encoded(png::ColorType::Indexed, png::BitDepth::Two, Some(&[0, 0, 0, 255, 128, 7]), &[0x50, 0x50]);
    let deep =
        encoded(png::ColorType::Rgb, png::BitDepth::Sixteen, None, &[255, 255, 128, 128, 7, 7].repeat(4));
    for got in [rgb, rgba, table, deep] {
        assert_eq!(got.at(DVec2::ONE), orange);
    }
    let black = encoded(png::ColorType::Grayscale, png::BitDepth::One, None, &[0x80, 0x40]);
    assert_eq!((black.at(DVec2::splat(0.5)), black.at(DVec2::new(1.5, 0.5))), (255.0, 0.0));
}

#[test]
fn what_is_no_picture_is_refused() {
    assert!(read(b"\x89PNG\r\n\x1a\n broken").is_err());
    let mut bomb = Vec::new();
    png::Encoder::new(&mut bomb, 2, 2).write_header().unwrap().write_image_data(&[0; 4]).unwrap();
    // Its head says 60,000 × 60,000, and keeps its word by its sum: refused before it is unpacked.
    bomb[16..24].copy_from_slice(&[0, 0, 0xea, 0x60, 0, 0, 0xea, 0x60]);
    assert!(read(&bomb).is_err());
    let mut wide = Vec::new();
    Encoder::new(&mut wide, 50).encode(&[0; 64], 8, 8, ColorType::Luma).unwrap();
    let at = wide.windows(2).position(|w| w == [0xff, 0xc0]).unwrap();
    wide[at + 5..at + 9].copy_from_slice(&[0xff, 0xff, 0xff, 0xff]);
    assert!(matches!(read(&wide), Err(trace::PictureError::TooLarge { .. })), "65,535 × 65,535 pixels");
}

/// A plane is its own inverse's inverse, whatever four corners it was made from.
fn seen_plane(lean: f64, turn: f64) -> [DVec2; 4] {
    let m = DMat3::from_rotation_x(lean) * DMat3::from_rotation_z(turn);
    let rim = [[-1.0, -0.7], [1.0, -0.7], [1.0, 0.7], [-1.0, 0.7]];
    rim.map(|[x, y]| {
        let v = m * DVec3::new(x, y, 0.0);
        DVec2::new(300.0, 200.0) + 150.0 * v.truncate() / (1.0 + 0.25 * v.z)
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    #[test]
    fn straightened_corners_are_square(lean in -0.7..0.7f64, turn in 0.0..TAU, wide in 10.0..500.0f64) {
        let seen = seen_plane(lean, turn);
        let plane = Plane::of_square(&Square { corners: seen, wide, high: 0.7 * wide }).unwrap();
        let c = seen.map(|p| plane.mm(p));
        for k in 0..4 {
            prop_assert!((c[k].distance(c[(k + 1) % 4]) - [wide, 0.7 * wide][k % 2]).abs() < 1e-6 * wide);
            let (side, next) = (c[(k + 1) % 4] - c[k], c[(k + 2) % 4] - c[(k + 1) % 4]);
            prop_assert!(side.dot(next).abs() < 1e-6 * wide * wide);
            prop_assert!(plane.pixel(c[k]).distance(seen[k]) < 1e-6);
        }
        // As it is seen, not its mirror image: down the picture is down the part, up to a turn.
        let [o, x, y] = [[300.0, 200.0], [301.0, 200.0], [300.0, 201.0]].map(|p| plane.mm(DVec2::from(p)));
        prop_assert!((x - o).perp_dot(y - o) < 0.0);
    }

    /// Points of a circle with noise: the fit's residual is no larger than that of the circle they came from.
    #[test]
    fn least_squares_are_least(r in 5.0..200.0f64, from in 0.0..TAU, sweep in 0.6..TAU, n in 5usize..60,
        grain in 0.0..0.5f64) {
        let c = DVec2::new(40.0, -20.0);
        let points: Vec<DVec2> = (0..n).map(|k| {
            let along = DVec2::from_angle(from + sweep * k as f64 / (n - 1) as f64 * 0.999);
            c + along * (r + grain * (noise(k, n) - 0.5))
        }).collect();
        let fit = fit_circle(&points).unwrap();
        let sum = |m: DVec2, r: f64| points.iter().map(|p| (p.distance(m) - r).powi(2)).sum::<f64>();
        prop_assert!(sum(fit.centre, fit.radius) <= sum(c, r) + 1e-9, "{fit:?}");
        for by in [DVec3::X, DVec3::Y, DVec3::Z, -DVec3::X, -DVec3::Y, -DVec3::Z].map(|d| d * 1e-3) {
            let beside = sum(fit.centre + by.truncate(), fit.radius + by.z);
            prop_assert!(sum(fit.centre, fit.radius) <= beside + 1e-9);
        }
    }

    /// No bytes make the reader panic, nor a picture with a stretch of it changed.
    #[test]
    fn any_bytes_are_a_picture_or_refused(bytes in prop::collection::vec(any::<u8>(), 0..300),
        at in 0.0..1.0f64) {
        let _ = read(&bytes);
        let mut good = Vec::new();
        Encoder::new(&mut good, 80).encode(&[90; 32 * 32], 32, 32, ColorType::Luma).unwrap();
        let i = (at * good.len() as f64) as usize;
        let end = (i + bytes.len() / 20).min(good.len());
        good.splice(i..end, bytes.iter().take(bytes.len() / 20).copied());
        let _ = read(&good);
    }
}
