//! Trusses, plates, trims, copies and templates of frames against hand sums; random frames never panic.

use approx::assert_relative_eq;
use glam::DVec3;
use proptest::prelude::*;
use rstest::rstest;
use steelk_core::evaluate::evaluate_frame;
use steelk_core::frame::*;
use steelk_core::grammar::Context;
use steelk_core::job::*;
use steelk_core::result::Severity;
use steelk_core::shop::Shop;

use crate::common::frame::*;

/// A symmetric truss 6 m long: bottom chord, a longer top chord 800 above it, sloping ends, a vertical in the
/// middle, diagonals. By hand: slope of the ends atan(800/300); diagonal from (0,0) to (1500,800): 28.07°.
#[test]
fn a_truss_by_hand() {
    let r = frame(
        "80x80x4",
        JointHow::Butt,
        &[
            "node A 3000 0 0",
            "node O 0 0 0",
            "node C 3300 0 800",
            "node P 0 0 800",
            "node Q 1500 0 800",
            "chord O A",
            "chord P C",
            "strut A C",
            "vertical O P 50x50x3",
            "diagonal O Q 50x50x3",
            "butt C first chord-2",
            "mitre A",
            "mirror east 0",
        ],
    );
    assert!(r.faults.is_empty());
    let chord = of(&r, "chord-1").1;
    let end = (800f64 / 300.0).atan();
    // Mitred at A: the included angle is 180° − the slope; long points lie below.
    let theta = std::f64::consts::PI - end;
    assert_relative_eq!(chord.lengths.centre, 6000.0, epsilon = 1e-6);
    assert_relative_eq!(chord.lengths.long, 6000.0 + 2.0 * 40.0 / (theta / 2.0).tan(), epsilon = 1e-6);
    assert_relative_eq!(plane(&chord.cuts[0]).angle, end / 2.0, epsilon = 1e-9);
    // The top chord runs through at C, square, far enough to carry the sloping strut; its lower face is 40
    // down.
    let top = of(&r, "chord-2").1;
    let half = 40.0;
    let foot = 3300.0 - half / end.tan() + half / end.sin();
    assert_relative_eq!(top.lengths.long, 2.0 * foot, epsilon = 1e-6);
    assert_eq!(top.cuts, [Cut::Square, Cut::Square]);
    // The strut: mitred below, 90° − slope off square above, short of the node by the half depth along the
    // slope.
    let strut = of(&r, "strut-1").1;
    let whole = 300f64.hypot(800.0);
    assert_relative_eq!(strut.lengths.centre, whole - half / end.sin(), epsilon = 1e-6);
    assert_relative_eq!(plane(&strut.cuts[1]).angle, std::f64::consts::FRAC_PI_2 - end, epsilon = 1e-9);
    // The vertical stands between the chords; the diagonal is cut by the chord and by the vertical.
    assert_relative_eq!(of(&r, "vertical-1").1.lengths.long, 800.0 - 80.0, epsilon = 1e-6);
    let d = of(&r, "diagonal-1").1;
    let slope = 800f64.atan2(1500.0);
    let Cut::Planes(planes) = &d.cuts[0] else { panic!("{:?}", d.cuts[0]) };
    let mut angles: Vec<f64> = planes.iter().map(|p| p.angle).collect();
    angles.sort_by(f64::total_cmp);
    assert_relative_eq!(angles[0], slope, epsilon = 1e-9);
    assert_relative_eq!(angles[1], std::f64::consts::FRAC_PI_2 - slope, epsilon = 1e-9);
    // Both halves are one row each.
    let rows: Vec<usize> = r.groups.iter().map(|g| g.fits.len()).collect();
    assert_eq!(rows, [1, 1, 2, 1, 2]);
    assert!(r.centre().x.abs() < 1e-6);
}

/// A plane that would make a member longer does nothing but say so, until it is told to lengthen.
#[test]
fn trims_never_lengthen_unless_told() {
    let lines = ["node A 0 0 0", "node B 0 0 1000", "post A B", "trim post-1 end up 1100"];
    let r = frame("60x60x3", JointHow::Butt, &lines);
    assert_relative_eq!(of(&r, "post-1").1.lengths.long, 1000.0);
    let told = r.findings.iter().find(|f| f.check == "trim_would_lengthen").unwrap();
    assert_eq!((told.severity, told.amount.as_str()), (Severity::Warn, "100.0 mm"));
    let r = frame("60x60x3", JointHow::Butt, &[&lines[..3], &["trim post-1 end up 1100 lengthen"]].concat());
    assert_relative_eq!(of(&r, "post-1").1.lengths.long, 1100.0);
    let r = frame("60x60x3", JointHow::Butt, &[&lines[..3], &["trim post-1 end up 900 gap 2"]].concat());
    assert_relative_eq!(of(&r, "post-1").1.lengths.long, 898.0);
    clean(&r);
}

/// A leg of a sloping plane through three nodes: cut by its slope.
#[test]
fn trimmed_by_a_plane_of_nodes() {
    let (mut job, mut f) = told(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 0 0 1000",
            "node C 100 0 900",
            "node D 100 500 900",
            "node E -100 0 1000",
            "post A B",
        ],
    );
    let by = TrimBy::Nodes { nodes: vec!["C".into(), "D".into(), "E".into()] };
    f.lines.push(FrameLine::new(
        "t",
        FrameOperation::Trim(TrimSaid { member: "post-1".into(), tip: Tip::End, by, ..TrimSaid::default() }),
    ));
    job.frames.clear();
    let r = evaluate_frame(&job, &f);
    let post = of(&r, "post-1").1;
    assert_relative_eq!(plane(&post.cuts[1]).angle, (100f64 / 200.0).atan(), epsilon = 1e-9);
    assert_relative_eq!(post.lengths.centre, 950.0, epsilon = 1e-9);
    assert_relative_eq!(post.lengths.long - post.lengths.short, 60.0 * 0.5, epsilon = 1e-9);
}

/// Faces of a base, a gusset with nose and snipe, a fitted plate: areas by hand. They follow when the frame
/// changes.
#[rstest]
fn plates_follow_the_frame(#[values(800.0, 1000.0)] w: f64) {
    let r = frame(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B from A up 700",
            &format!("node C {w} 0 700"),
            &format!("node D {w} 0 0"),
            "post A B",
            "rail B C",
            "post D C",
            "rail A D",
            "gusset B A C leg 120 thick 6 nose 15 snipe 10",
            "plate A B C D thick 4 clearance 1",
            "butt A D first post-1 post-2",
            "butt B C first post-1 post-2",
        ],
    );
    clean(&r);
    let g = r.plates.iter().find(|p| p.call == "gusset").unwrap();
    // Legs 120, noses of 15: the square less the cut-off corner, less the snipe's triangle.
    let wanted = 120.0 * 120.0 - 105.0 * 105.0 / 2.0 - 10.0 * 10.0 / 2.0;
    assert_relative_eq!(g.piece.value("mass"), wanted * 6.0 * 7850e-9, max_relative = 1e-9);
    let plate = r.plates.iter().find(|p| p.call == "plate").unwrap();
    assert_relative_eq!(
        plate.piece.value("mass"),
        (w - 62.0) * (700.0 - 62.0) * 4.0 * 7850e-9,
        max_relative = 1e-9
    );
    // The gusset's root stands where the faces meet.
    let q = &g.places[0];
    let corner = DVec3::new(30.0, 0.0, 670.0);
    let near = |p: DVec3| (p - corner).with_y(0.0).length();
    let points: Vec<DVec3> =
        g.piece.flat.outer.vertices.iter().map(|v| q.o + q.x * v.p.x + q.y * v.p.y).collect();
    assert_relative_eq!(points.iter().map(|p| near(*p)).fold(f64::INFINITY, f64::min), 10.0, epsilon = 1e-6);
    assert!(points.iter().all(|p| (p.y.abs() - 3.0).abs() < 1e-6));
}

/// A foot takes its thickness off the post; four copies of foot and lug; the lug brings its caution and no
/// rating.
#[test]
fn feet_lugs_and_their_copies() {
    let r = frame(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A 400 300 0",
            "node B from A up 900",
            "post A B",
            "foot A 120 x 120 thick 8 hole 11 edge 22",
            "lug post-1 right at 600 thick 10 radius 25 eye 20 height 40 base 120 x 80 x 8",
            "mirror east 0",
            "mirror north 0",
        ],
    );
    clean(&r);
    assert_relative_eq!(of(&r, "post-1").1.lengths.long, 892.0);
    let foot = r.plates.iter().find(|p| p.call == "base plate").unwrap();
    assert_eq!((foot.places.len(), foot.piece.flat.holes.len()), (4, 4));
    let area = 120.0 * 120.0 - 4.0 * std::f64::consts::PI * 5.5 * 5.5;
    assert_relative_eq!(foot.piece.value("mass"), area * 8.0 * 7850e-9, max_relative = 1e-9);
    let lug = r.plates.iter().find(|p| p.lifting).unwrap();
    let area = 50.0 * 40.0 + std::f64::consts::PI * (25.0 * 25.0 / 2.0 - 10.0 * 10.0);
    assert_relative_eq!(lug.piece.value("mass"), area * 10.0 * 7850e-9, max_relative = 1e-9);
    assert_eq!(lug.places.len(), 4);
    let caution = r.findings.iter().find(|f| f.check == "lifting").unwrap();
    assert!(caution.message.contains("qualified person"));
    // The eyes of mirrored lugs are mirrored: their middle is the frame's.
    let c = r.centre();
    assert!(c.x.abs() < 1e-9 && c.y.abs() < 1e-9);
}

/// Bays repeated: members shared between bays are counted once, and every bay's copies join their row.
#[test]
fn bays_share_what_stands_between_them() {
    let r = frame(
        "50x50x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 0 0 600",
            "node C 800 0 0",
            "node D 800 0 600",
            "post A B",
            "post C D",
            "rail A C",
            "rail B D",
            "repeat 4 east 800",
        ],
    );
    clean(&r);
    assert_eq!(r.members.len(), 5 + 8);
    let posts = r.groups.iter().find(|g| r.members[g.fits[0].member].call == "post").unwrap();
    assert_eq!(posts.fits.len(), 5);
    // A copy of copies: as many nodes as there are places, and no more.
    assert_eq!(r.nodes.len(), 10);
    let deck = frame(
        "50x50x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 0 0 600",
            "node C 800 0 0",
            "post A B",
            "rail A C",
            "repeat 6 east 800",
            "repeat 5 up 600",
            "mirror north 100",
        ],
    );
    assert!(deck.faults.is_empty());
    assert_eq!((deck.members.len(), deck.nodes.len()), (2 * (6 * 5 + 6 * 5), 2 * (7 * 5 + 6)));
}

/// A clamp ring and stacked blocks: masses by hand.
#[test]
fn rings_and_blocks() {
    let (job, mut f) = told("48.3x3", JointHow::Butt, &["node A 0 0 0", "node B 0 0 1000", "post A B"]);
    let push = |f: &mut Frame, id: &str, say: FrameOperation| f.lines.push(FrameLine::new(id, say));
    let s = |t: &str| t.to_string();
    push(
        &mut f,
        "clamp-1",
        FrameOperation::RingClamp(RingSaid {
            member: s("post-1"),
            at: s("300"),
            outside: s("63.5"),
            width: s("30"),
            clearance: s("0.2"),
            split: s("5"),
            ear: s("28"),
            thickness: s("8"),
            bolt: s("9"),
            ..RingSaid::default()
        }),
    );
    let block = |n: &str, h: &str| Block { name: s(n), length: s("100"), width: s("80"), height: s(h) };
    push(
        &mut f,
        "stack-1",
        FrameOperation::Stack(StackSaid { at: s("B"), blocks: vec![block("pad", "20"), block("shim", "5")] }),
    );
    let r = evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    let mass = |call: &str| {
        r.plates
            .iter()
            .filter(|p| p.call == call)
            .map(|p| p.piece.value("mass") * p.places.len() as f64)
            .sum::<f64>()
    };
    assert_relative_eq!(mass("pad"), 100.0 * 80.0 * 20.0 * 7850e-9, max_relative = 1e-9);
    assert_relative_eq!(
        mass("clamp ear"),
        2.0 * (28.0 * 30.0 - std::f64::consts::PI * 4.5 * 4.5) * 8.0 * 7850e-9,
        max_relative = 1e-9
    );
    // A ring less a strip of the split's width, by integration over the strip.
    let (big, small) = (63.5 / 2.0, 48.3 / 2.0 + 0.2);
    let strip = |r: f64| -> f64 {
        let h: f64 = 2.5;
        h * (r * r - h * h).sqrt() + r * r * (h / r).asin()
    };
    let area = std::f64::consts::PI * (big * big - small * small) - (strip(big) - strip(small));
    assert_relative_eq!(mass("clamp ring"), area * 30.0 * 7850e-9, max_relative = 1e-4);
    // Cut from a tube, not from plate: outside, wall, and how much of it.
    let list = frame_list(&f, &r, &job.display, &SawFacts::usual(&job.display));
    let row = |name: &str| {
        list.plates.iter().find(|p| p.name == name).map(|p| (p.stock.as_str(), p.size.as_str())).unwrap()
    };
    assert_eq!(row("clamp ring"), ("tube 63.5 × 7.4", "30.0"));
    assert_eq!(row("clamp ear"), ("plate 8", "30.0 × 28.0"));
}

/// The wrap template of a saddle: developed edge x = r·φ, depth from R − √(R² − r²·sin²φ), all round.
#[test]
fn wrap_template_against_the_analytic_curve() {
    let r = frame(
        "88.9x4",
        JointHow::Butt,
        &[
            "node A -500 0 0",
            "node B 500 0 0",
            "node M 0 0 0",
            "node D 0 0 400",
            "pipe A B",
            "pipe M D 60.3x4",
        ],
    );
    let found = copes(&r);
    assert_eq!(found.len(), 1);
    let (_, member, end) = found[0].clone();
    let (m, p) = (&r.members[member], &r.profiles[r.members[member].profile]);
    let outline = template_outline(m, p, end);
    let (small, big) = (60.3 / 2.0, 88.9 / 2.0);
    let (run, top) = (std::f64::consts::TAU * small, outline.bounds().max.y);
    let mut seen = 0;
    for v in outline.vertices.iter().filter(|v| v.p.y > 20.0) {
        let phi = v.p.x / small;
        // The longest tongues reach down beside the run: at the quarter points across its axis.
        let depth = |a: f64| big - (big * big - small * small * a.sin() * a.sin()).sqrt();
        let options = [depth(phi), depth(phi + std::f64::consts::FRAC_PI_2)];
        let below = top - v.p.y;
        let most = depth(std::f64::consts::FRAC_PI_2);
        assert!(options.iter().any(|o| (most - o - below).abs() < 1e-6), "{phi} {below} {options:?}");
        seen += 1;
    }
    assert!(seen > 200);
    assert_relative_eq!(outline.bounds().size().x, run, max_relative = 1e-9);
    // As a piece it can be drawn full size and cut.
    let piece = wrap_template(Shop::of(&Job::default().settings()).sheet(), &r, "C1").unwrap();
    assert!(piece.made && piece.faults.is_empty());
    let skin = skin_outline(m, p);
    assert_relative_eq!(
        skin.area() * 4.0,
        m.length * run * 4.0 - run * m_mean(m, small) * 4.0,
        max_relative = 1e-3
    );
}

/// Mean station of the cut round the outside.
fn m_mean(m: &Member, r: f64) -> f64 {
    (0..720)
        .map(|i| m.station(0, glam::DVec2::from_angle(f64::from(i) / 720.0 * std::f64::consts::TAU) * r))
        .sum::<f64>()
        / 720.0
}

/// A bent rail: straight legs and an arc tangent between them; developed length = legs − 2·R·tan(α/2) + R·α.
#[test]
fn bent_bars_by_their_developed_length() {
    let r = frame(
        "48.3x3",
        JointHow::Mitre,
        &["node A 0 0 0", "node B 600 0 0", "node C 600 500 0", "pipe A B C bent 150"],
    );
    clean(&r);
    let (m, f) = of(&r, "pipe-1");
    let wanted = 600.0 + 500.0 - 2.0 * 150.0 + 150.0 * std::f64::consts::FRAC_PI_2;
    assert_relative_eq!(f.lengths.long, wanted, epsilon = 1e-9);
    assert_relative_eq!(f.volume, wanted * r.profiles[0].properties.area, max_relative = 1e-9);
    assert_relative_eq!(body(m, &r.profiles[0], true).volume(), f.volume, max_relative = 0.01);
    let hoop = frame(
        "48.3x3",
        JointHow::Mitre,
        &[
            "node A 0 0 0",
            "node B 600 0 0",
            "node C 600 500 0",
            "node D 0 500 0",
            "hoop A B C D closed bent 100",
        ],
    );
    clean(&hoop);
    assert_relative_eq!(
        of(&hoop, "hoop-1").1.lengths.long,
        2.0 * (400.0 + 300.0) + std::f64::consts::TAU * 100.0,
        epsilon = 1e-9
    );
    let bad = frame(
        "48.3x3",
        JointHow::Mitre,
        &["node A 0 0 0", "node B 600 0 0", "node C 600 100 0", "pipe A B C bent 150"],
    );
    assert!(bad.faults[0].fault.message.contains("too short"));
}

/// Welds: round the end of a square brace, the smallest leg by the thicker part, metal by the throat.
#[test]
fn welds_by_hand() {
    let r = frame(
        "100x100x8",
        JointHow::Butt,
        &[
            "node A -500 0 0",
            "node B 500 0 0",
            "node M 0 0 0",
            "node D 0 0 400",
            "chord A B",
            "post M D 60x60x5",
        ],
    );
    let w = &r.welds[0];
    let round = 4.0 * (60.0 - 20.0) + std::f64::consts::TAU * 10.0;
    assert_relative_eq!(w.length, round, max_relative = 1e-6);
    // 8 mm is the thicker part: 5 mm, which the 5 mm wall just bears.
    assert_eq!((w.least, w.size), (5.0, 5.0));
    assert_relative_eq!(w.metal, (0.7f64 * 5.0).powi(2) * round * 1.1, max_relative = 1e-6);
    assert_relative_eq!(r.weld_mass(), w.metal * 7850e-9, max_relative = 1e-9);
    // An aluminium frame is welded with aluminium.
    let (job, mut f) = told(
        "100x100x8",
        JointHow::Butt,
        &[
            "node A -500 0 0",
            "node B 500 0 0",
            "node M 0 0 0",
            "node D 0 0 400",
            "chord A B",
            "post M D 60x60x5",
        ],
    );
    f.material = "6061-t6".into();
    let light = evaluate_frame(&job, &f);
    assert!(light.faults.is_empty(), "{:?}", light.faults);
    assert_relative_eq!(light.weld_mass(), w.metal * 2700e-9, max_relative = 1e-9);
}

/// Holes: taken from the mass, told in the list, part of what makes pieces equal.
#[test]
fn holes_tell_pieces_apart() {
    let r = frame(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A 0 0 0",
            "node B 500 0 0",
            "node C 0 300 0",
            "node D 500 300 0",
            "rail A B",
            "rail C D",
            "holes 9 on rail-1, 50 from its start, top, through, 5 x 100",
        ],
    );
    clean(&r);
    assert_eq!(r.groups.len(), 2);
    let (with, without) = (of(&r, "rail-1").1.volume, of(&r, "rail-2").1.volume);
    assert_relative_eq!(without - with, 5.0 * 6.0 * std::f64::consts::PI * 4.5 * 4.5, max_relative = 1e-9);
    let (job, mut f) = told("60x60x3", JointHow::Butt, &["node A 0 0 0", "node B 500 0 0", "rail A B"]);
    for (at, d) in [("498", "9"), ("50", "60"), ("-1", "9")] {
        let hole = HoleSaid {
            members: vec!["rail-1".into()],
            diameter: d.into(),
            at: at.into(),
            ..HoleSaid::default()
        };
        f.lines.truncate(3);
        f.lines.push(FrameLine::new("h", FrameOperation::Hole(hole)));
        assert_eq!(evaluate_frame(&job, &f).faults.len(), 1, "{at} {d}");
    }
}

/// A notch lies at the finished end, wherever the joint puts that, and on its mirrored copies too; its metal
/// is width × length × walls.
#[test]
fn notches_lie_at_the_finished_end() {
    let lines = [
        "node A 0 0 0",
        "node B 600 0 0",
        "node C 600 0 -500",
        "node D 600 0 500",
        "post C D 100x100x4",
        "rail A B",
        "notch rail-1 end 6 x 80 top through",
    ];
    let r = frame("60x60x3", JointHow::Butt, &lines);
    clean(&r);
    let (m, f) = of(&r, "rail-1");
    assert_relative_eq!(f.lengths.long, 550.0);
    assert_relative_eq!(m.holes[0].along, 550.0 - 40.0);
    assert_relative_eq!(
        f.volume,
        r.profiles[m.profile].properties.area * 550.0 - 6.0 * 80.0 * 6.0,
        max_relative = 1e-9
    );
    let twice = frame("60x60x3", JointHow::Butt, &[&lines[..], &["mirror north 200"]].concat());
    clean(&twice);
    let copy = of(&twice, "mirror-1.rail-1").0;
    assert_relative_eq!(copy.holes[0].along, 50.0 + 40.0);
    assert!(twice.groups.iter().any(|g| g.fits.len() == 2 && twice.members[g.fits[0].member].call == "rail"));
    let refused = frame(
        "60x60x3",
        JointHow::Butt,
        &["node A 0 0 0", "node B 600 0 0", "rail A B", "notch rail-1 end 60 x 80 top"],
    );
    assert_eq!(refused.faults.len(), 1);
}

/// Metal that two notches share is taken once; by hand. In a round the two walls are what the strip covers of
/// the ring (area of a segment, textbook).
#[test]
fn notches_that_run_into_one_another_take_their_metal_once() {
    let nodes = ["node A 0 0 0", "node B 900 0 0", "rail A B"];
    let with = |section: &str, notches: &[&str]| {
        let r = frame(section, JointHow::Butt, &[&nodes[..], notches].concat());
        assert!(r.faults.is_empty(), "{:?}", r.faults);
        let (m, f) = of(&r, "rail-1");
        (r.profiles[m.profile].properties.area * 900.0 - f.volume, f.centre.x)
    };
    let (taken, x) =
        with("60x60x4", &["notch rail-1 end 12 x 80 top through", "notch rail-1 end 30 x 40 top"]);
    let top = 12.0 * 80.0 + 30.0 * 40.0 - 12.0 * 40.0;
    assert_relative_eq!(taken, (top + 12.0 * 80.0) * 4.0, max_relative = 1e-9);
    // Taken at the end, so that it balances nearer to its start than one without.
    assert!(x < 450.0 && x > 440.0, "{x}");
    // Beside one another nothing is shared: the same as each by itself.
    let (apart, _) = with("60x60x4", &["notch rail-1 end 8 x 80 top", "notch rail-1 end 8 x 50 left"]);
    assert_relative_eq!(apart, (8.0 * 80.0 + 8.0 * 50.0) * 4.0, max_relative = 1e-9);
    let half_disc = |r: f64| r * r * (6.0 / r).asin() + 6.0 * (r * r - 36.0f64).sqrt();
    let (round, _) = with("60.3x4", &["notch rail-1 end 12 x 80 top through", "notch rail-1 end 4 x 30 top"]);
    assert_relative_eq!(round, (half_disc(30.15) - half_disc(26.15)) * 2.0 * 80.0, max_relative = 1e-6);
}

/// The flat of a piece on the bench, and a told outline, as sections.
#[test]
fn sections_of_ones_own() {
    let (mut job, mut f) =
        told("P-7", JointHow::Mitre, &["node A 0 0 0", "node B 1000 0 0", "bar A B", "bar A B, \"box\""]);
    f.lines[3].id = "bar-2".into();
    let line = |id: &str, text: &str| {
        Line::new(id, steelk_core::verbs::read_line(text, &Context::default()).unwrap())
    };
    let lines = vec![line("start-1", "plate 80 x 50"), line("punch-1", "hole 20")];
    job.pieces.push(Piece {
        id: "p".into(),
        mark: "P-7".into(),
        quantity: "1".into(),
        material: "s235".into(),
        thickness: "3".into(),
        lines,
        ..Piece::default()
    });
    let corner = |x: &str, y: &str| [x.to_string(), y.to_string()];
    let points = vec![corner("0", "0"), corner("40", "0"), corner("40", "30"), corner("0", "30")];
    let bore = vec![corner("5", "5"), corner("35", "5"), corner("35", "25"), corner("5", "25")];
    job.sections.push(OwnSection { name: "box".into(), points, bore });
    let r = evaluate_frame(&job, &f);
    assert!(r.faults.is_empty(), "{:?}", r.faults);
    assert_relative_eq!(
        of(&r, "bar-1").1.volume,
        (80.0 * 50.0 - std::f64::consts::PI * 100.0) * 1000.0,
        max_relative = 1e-9
    );
    assert_relative_eq!(of(&r, "bar-2").1.volume, (40.0 * 30.0 - 30.0 * 20.0) * 1000.0, max_relative = 1e-9);
    job.sections[0].points.swap(1, 2);
    // Where it is told, and at the member that wants it.
    let told = Shop::of(&job.settings()).faults;
    assert_eq!(told.len(), 1, "{told:?}");
    assert!(
        told[0].path == "/sections/0/points" && told[0].fault.message.contains("crosses itself"),
        "{told:?}"
    );
    assert!(evaluate_frame(&job, &f).faults[0].fault.message.contains("'box' is not right yet"));
}

#[test]
fn what_cannot_be_is_told_and_the_rest_goes_on() {
    let (job, mut f) = told("60x60x3", JointHow::Butt, &["node A 0 0 0", "node B 500 0 0", "rail A B"]);
    let node = |n: &str| {
        FrameOperation::Node(NodeSaid {
            name: n.into(),
            x: "1".into(),
            y: "".into(),
            z: "5 mm + 3 deg".into(),
            ..NodeSaid::default()
        })
    };
    let bad = [
        node("A"),
        node("N"),
        FrameOperation::Members(Members {
            name: "rail".into(),
            path: vec!["A".into(), "X".into()],
            ..Members::default()
        }),
        FrameOperation::Members(Members {
            name: "rail".into(),
            path: vec!["A".into(), "B".into()],
            section: "SHS 3".into(),
            ..Members::default()
        }),
        FrameOperation::Cap(CapSaid { at: vec!["Z".into()], thickness: "3".into(), ..CapSaid::default() }),
        FrameOperation::MirrorFrame(MirrorFrame { of: vec!["nowhere".into()], ..MirrorFrame::default() }),
        FrameOperation::Gusset(GussetSaid {
            at: "A".into(),
            between: vec!["B".into()],
            leg: "50".into(),
            thickness: "5".into(),
            ..GussetSaid::default()
        }),
        FrameOperation::Joint(JointSaid { at: vec!["Q".into()], ..JointSaid::default() }),
    ];
    for (i, say) in bad.into_iter().enumerate() {
        f.lines.push(FrameLine::new(format!("bad-{i}"), say));
    }
    let r = evaluate_frame(&job, &f);
    let told: std::collections::BTreeSet<&str> = r.faults.iter().map(|f| f.line.as_str()).collect();
    assert_eq!(told.len(), 8, "{:?}", r.faults);
    assert!(r.faults.iter().all(|f| !f.fault.message.is_empty() && !f.fault.mend.is_empty()));
    assert_relative_eq!(of(&r, "rail-1").1.lengths.long, 500.0);
}

/// Members told twice, and members that pass one another, are stops; the twin is named.
#[test]
fn doubles_and_clashes_are_stops() {
    let r = frame("60x60x3", JointHow::Butt, &["node A 0 0 0", "node B 500 0 0", "rail A B", "rail B A"]);
    assert!(r.findings.iter().any(|f| f.check == "double" && f.severity == Severity::Stop));
    let r = frame(
        "60x60x3",
        JointHow::Butt,
        &[
            "node A -500 0 0",
            "node B 500 0 0",
            "node C 0 -500 0",
            "node D 0 500 0",
            "node M 0 0 0",
            "rail A B",
            "rail C D",
        ],
    );
    assert!(r.findings.iter().any(|f| f.check == "run_through" && f.severity == Severity::Stop));
}

fn words() -> impl Strategy<Value = String> {
    let word = prop::sample::select(vec![
        "node",
        "A",
        "B",
        "C",
        "D",
        "M",
        "0",
        "500",
        "-300",
        "1/2",
        "from",
        "up",
        "east",
        "between",
        "at",
        "rail",
        "post",
        "60x60x3",
        "48.3x3",
        "IPE 100",
        "L 60x40x5",
        "closed",
        "bent",
        "150",
        "turn",
        "45",
        "mitre",
        "butt",
        "first",
        "rail-1",
        "mirror",
        "repeat",
        "3",
        "gusset",
        "leg",
        "thick",
        "6",
        "nose",
        "foot",
        "100",
        "cap",
        "plate",
        "over",
        "lug",
        "radius",
        "eye",
        "20",
        "height",
        "trim",
        "end",
        "holes",
        "9",
        "pitch",
        "through",
        "top",
        "flat",
        "×",
        "(",
        "e9",
        "ß",
    ]);
    prop::collection::vec(word, 0..14).prop_map(|w| w.join(" "))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, ..ProptestConfig::default() })]

    /// Any text is read or refused in words.
    #[test]
    fn typed_lines_never_panic(text in words(), more in "\\PC{0,40}") {
        for t in [text, more] {
            if let Err(f) = read_frame_line(&t, &Context::default()) {
                prop_assert!(!f.message.is_empty());
            }
        }
    }

    /// Random members between random nodes of a coarse grid, all kinds of section and joint: no panic, no
    /// NaN, every end accounted for, grouped pieces of one mass, mirrored frames twice as heavy as what does
    /// not cross the mirror.
    #[test]
    fn random_frames_hold_together(
        nodes in prop::collection::vec((0i32..4, 0i32..4, 0i32..4), 2..9),
        members in prop::collection::vec((0usize..9, 0usize..9, 0usize..8, 0i32..8, 0usize..10), 1..12),
        mitre in any::<bool>(),
        gap in 0i32..4,
    ) {
        hold_together(&nodes, &members, mitre, gap)?;
    }
}

/// What random frames once broke on.
#[test]
fn frames_that_once_fell_apart() {
    let nodes = [(2, 3, 2), (0, 3, 0), (0, 0, 0), (0, 0, 0), (0, 0, 0), (3, 0, 3)];
    hold_together(&nodes, &[(7, 5, 2, 0, 2), (7, 6, 3, 6, 4)], false, 0).unwrap();
    let nodes = [(2, 0, 0), (2, 0, 1), (0, 1, 0)];
    hold_together(&nodes, &[(4, 2, 2, 0, 5), (2, 3, 6, 6, 6), (2, 7, 4, 1, 4)], false, 0).unwrap();
}

/// Nodes in steps of 400; members as node, node, section, turn in steps of 15°, seat.
fn hold_together(
    nodes: &[(i32, i32, i32)],
    members: &[(usize, usize, usize, i32, usize)],
    mitre: bool,
    gap: i32,
) -> Result<(), TestCaseError> {
    let sections =
        ["60x60x3", "RHS 100x50x4", "48.3x3", "IPE 100", "UPE 100", "L 60x40x5", "FLAT 50x8", "ROUND 30"];
    let mut lines = Vec::new();
    for (i, n) in nodes.iter().enumerate() {
        let at = |v: i32| (v * 400).to_string();
        let say = FrameOperation::Node(NodeSaid {
            name: format!("N{i}"),
            x: at(n.0),
            y: at(n.1),
            z: at(n.2),
            ..NodeSaid::default()
        });
        lines.push(FrameLine::new(format!("n-{i}"), say));
    }
    for (i, m) in members.iter().enumerate() {
        let path = vec![format!("N{}", m.0 % nodes.len()), format!("N{}", m.1 % nodes.len())];
        let say = FrameOperation::Members(Members {
            name: "bar".into(),
            path,
            section: sections[m.2].into(),
            turn: (m.3 * 15).to_string(),
            sits: Alignment::ALL[m.4],
            ..Members::default()
        });
        lines.push(FrameLine::new(format!("m-{i}"), say));
    }
    let mirror = FrameOperation::MirrorFrame(MirrorFrame {
        across: FrameAxis::East,
        at: "-1000".into(),
        of: Vec::new(),
    });
    let mut f = Frame {
        id: "f".into(),
        mark: "F".into(),
        quantity: "1".into(),
        material: "s235".into(),
        section: "60x60x3".into(),
        lines,
        gap: gap.to_string(),
        ..Frame::default()
    };
    if !mitre {
        f.joint = JointHow::Butt;
    }
    let job = Job { format: FORMAT, ..Job::default() };
    let half = evaluate_frame(&job, &f);
    f.lines.push(FrameLine::new("mirror", mirror));
    let whole = evaluate_frame(&job, &f);
    // Bars told twice in one place stay one when they are copied.
    if half.findings.iter().all(|f| f.check != "double") {
        prop_assert_eq!(whole.members.len(), 2 * half.members.len());
        prop_assert!(
            (whole.mass() - 2.0 * half.mass()).abs() < 1e-6 * half.mass().max(1.0),
            "{} {}",
            whole.mass(),
            half.mass()
        );
    }
    for r in [&half, &whole] {
        prop_assert!(r.mass().is_finite() && r.centre().is_finite());
        prop_assert_eq!(r.groups.iter().map(|g| g.fits.len()).sum::<usize>(), r.members.len());
        for g in &r.groups {
            let first = &r.facts[g.fits[0].member];
            for fit in &g.fits {
                let facts = &r.facts[fit.member];
                prop_assert!((facts.volume - first.volume).abs() < 1e-3 * first.volume.max(1.0) + 50.0);
                prop_assert!(facts.lengths.long.is_finite());
            }
        }
        // Each standing body lies where its member does.
        for s in standing(r, true) {
            for p in &s.places {
                prop_assert!(p.at.is_finite());
                prop_assert!((p.at.matrix3.determinant().abs() - 1.0).abs() < 1e-6);
            }
        }
    }
    let list = frame_list(&f, &whole, &job.display, &SawFacts::usual(&job.display));
    prop_assert_eq!(list.bars.iter().map(|b| b.quantity).sum::<usize>(), whole.members.len());
    Ok(())
}
