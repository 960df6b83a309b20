//! Frames to begin with, of the section in the frame's head.

use std::fmt::Write;

use super::{Beginning, Size, SizeFault, Told, frame, one, size};

const LENGTH: Size = size('A', "length, east", "1200", "48", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]);
const DEPTH: Size = size('B', "width, north", "700", "30", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]);

pub static ALL: &[Beginning] = &[
    Beginning {
        tag: "rectangle",
        name: "rectangle",
        about: "Four bars round; sizes to the middles of the bars.",
        key: 'r',
        bench: frame,
        sizes: &[LENGTH, DEPTH],
        stood: [0.0, 0.0],
        parts: |t| one(floor(t) + "rail A B C D closed\n"),
    },
    Beginning {
        tag: "table",
        name: "table or stand",
        about: "A rectangle on four legs with foot plates.",
        key: 't',
        bench: frame,
        sizes: &[LENGTH, DEPTH, size('C', "height", "800", "32", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0])],
        stood: [0.0, 0.0],
        parts: |t| {
            one(floor(t)
                + &upper(t)
                + &POSTS.concat()
                + &format!(
                    "rail E F G H closed\nfoot at A B C D, {}\n",
                    t.usual("80 x 80, 6 thick", "3 x 3, 1/4 thick")
                ))
        },
    },
    Beginning {
        tag: "frame-box",
        name: "box",
        about: "Twelve bars along the edges.",
        key: 'b',
        bench: frame,
        sizes: &[LENGTH, DEPTH, size('C', "height", "600", "24", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0])],
        stood: [0.0, 0.0],
        parts: |t| one(floor(t) + &upper(t) + "rail A B C D closed\nrail E F G H closed\n" + &POSTS.concat()),
    },
    Beginning {
        tag: "cage",
        name: "cage with braces",
        about: "A box with a brace across each of its four sides.",
        key: 'c',
        bench: frame,
        sizes: &[LENGTH, DEPTH, size('C', "height", "1000", "40", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0])],
        stood: [0.0, 0.0],
        parts: |t| {
            one(floor(t)
                + &upper(t)
                + "rail A B C D closed\nrail E F G H closed\n"
                + &POSTS.concat()
                + "brace A F\nbrace B G\nbrace C H\nbrace D E\n\
                   butt at A B C D E F G H, first post-1 post-2 post-3 post-4\n")
        },
    },
    Beginning {
        tag: "portal",
        name: "portal",
        about: "Two posts on base plates and a beam over them.",
        key: 'p',
        bench: frame,
        sizes: &[
            size('A', "span", "3000", "120", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "height", "2400", "96", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let (a, b) = (t.at('A'), t.at('B'));
            let foot = t.usual(
                "160 x 160, 10 thick, holes ⌀14, 25 from the edges",
                "6 x 6, 3/8 thick, holes ⌀9/16, 1 from the edges",
            );
            one(format!(
                "node A 0, 0, 0\nnode B {a} east from A\nnode C {b} up from A\nnode D {b} up from B\n\
                 post A C\npost B D\nbeam C D\nfoot at A B, {foot}\n"
            ))
        },
    },
    Beginning {
        tag: "truss",
        name: "truss",
        about: "Two chords and a zigzag between them; a shorter top chord makes sloping ends.",
        key: 'u',
        bench: frame,
        sizes: &[
            size('A', "bottom chord", "3000", "120", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "top chord", "2250", "90", [0.125, 0.0, 1.0], [0.875, 0.0, 1.0]),
            size('C', "height", "500", "20", [0.0, 0.0, 0.0], [0.0, 0.0, 1.0]),
            size('D', "bays", "4", "4", [0.5, 0.0, 0.5], [0.5, 0.0, 0.5]),
        ],
        stood: [0.0, 0.0],
        parts: |t| one(truss(t)?),
    },
    Beginning {
        tag: "hopper",
        name: "hopper or chute",
        about: "Four plates between a lower and an upper opening, told inside.",
        key: 'o',
        bench: frame,
        sizes: &[
            size('A', "bottom, east", "320", "13", [0.3, 0.3, 0.0], [0.7, 0.3, 0.0]),
            size('B', "bottom, north", "240", "9", [0.7, 0.3, 0.0], [0.7, 0.7, 0.0]),
            size('C', "top, east", "800", "32", [0.0, 0.0, 1.0], [1.0, 0.0, 1.0]),
            size('D', "top, north", "600", "24", [1.0, 0.0, 1.0], [1.0, 1.0, 1.0]),
            size('E', "height", "500", "20", [0.0, 0.0, 0.0], [0.0, 0.0, 1.0]),
            size('F', "plate", "4", "3/16", [0.1, 0.0, 0.75], [0.1, 0.0, 0.75]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, c, d, e, f] = ['A', 'B', 'C', 'D', 'E', 'F'].map(|letter| t.at(letter));
            one(format!("hopper {a} x {b} to {c} x {d}, {e} high, {f} thick\n"))
        },
    },
    Beginning {
        tag: "bent-bar",
        name: "bent bar",
        about: "A round bar in space: three legs told to their corners, with two bends between.",
        key: 'a',
        bench: frame,
        sizes: &[
            size('A', "first leg", "200", "8", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "second leg", "140", "6", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
            size('C', "third leg", "160", "6", [1.0, 0.0, 1.0], [1.0, 1.0, 1.0]),
            size('D', "bends, radius", "40", "1 1/2", [0.9, 0.0, 0.1], [0.9, 0.0, 0.1]),
            size('E', "round bar", "12", "1/2", [0.3, 0.0, 0.0], [0.3, 0.0, 0.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, c, d, e] = ['A', 'B', 'C', 'D', 'E'].map(|letter| t.at(letter));
            one(format!(
                "bent bar, ROUND {e}, to corners: {a}, bend 90° R{d}, {b}, bend 90° R{d} north, {c}\n"
            ))
        },
    },
    Beginning {
        tag: "handrail",
        name: "handrail",
        about: "Posts on base plates, a rail over them and one halfway up.",
        key: 'h',
        bench: frame,
        sizes: &[
            size('A', "length", "3000", "120", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "height", "1100", "42", [0.0, 0.0, 0.0], [0.0, 0.0, 1.0]),
            size('C', "posts", "4", "4", [0.5, 0.0, 0.25], [0.5, 0.0, 0.25]),
        ],
        stood: [0.0, 0.0],
        parts: |t| one(handrail(t)?),
    },
];

const POSTS: [&str; 4] = ["post A E\n", "post B F\n", "post C G\n", "post D H\n"];

/// Four corners on the ground.
fn floor(t: &Told) -> String {
    let (a, b) = (t.at('A'), t.at('B'));
    format!("node A 0, 0, 0\nnode B {a} east from A\nnode C {b} north from B\nnode D {b} north from A\n")
}

/// The same four, higher.
fn upper(t: &Told) -> String {
    let pairs = [("E", "A"), ("F", "B"), ("G", "C"), ("H", "D")];
    pairs.map(|(up, from)| format!("node {up} {} up from {from}\n", t.at('C'))).concat()
}

/// The bottom chord in so many bays, the top chord in one fewer: a brace from each point to the next.
fn truss(t: &Told) -> Result<String, SizeFault> {
    let bays = t.count('D', 2, 60)?;
    let (a, b) = (t.part('A'), t.part('B'));
    let mut out = format!(
        "node A 0, 0, 0\nnode B {} east from A\nnode C ({a} - {b})/2 east, {} up from A\n\
         node D {} east from C\n",
        t.at('A'),
        t.at('C'),
        t.at('B')
    );
    for (stem, n, from, to) in [("P", bays, "A", "B"), ("Q", bays - 1, "C", "D")] {
        for k in 1..n {
            let _ = writeln!(out, "node {stem}{k} between {from} and {to}, {k}/{n} of the way");
        }
    }
    out.push_str("bottom: chord A B\ntop: chord C D\nbrace A C");
    for k in 1..bays {
        let upper = if k + 1 < bays { format!("Q{k}") } else { "D".into() };
        let _ = write!(out, " P{k} {upper}");
    }
    // The chords run through, the braces are cut to them.
    out.push_str(" B\nbutt at A B C D, first bottom top\n");
    Ok(out)
}

fn handrail(t: &Told) -> Result<String, SizeFault> {
    let posts = t.count('C', 2, 60)?;
    let (a, b) = (t.part('A'), t.at('B'));
    let mut out = String::from("node P1 0, 0, 0\n");
    for k in 2..=posts {
        let _ = writeln!(out, "node P{k} {a}/{} east from P{}", posts - 1, k - 1);
    }
    for k in 1..=posts {
        let _ = writeln!(out, "node T{k} {b} up from P{k}\nnode M{k} between P{k} and T{k}, 1/2 of the way");
    }
    let _ = writeln!(out, "top: rail T1 T{posts}");
    let feet: Vec<String> = (1..=posts).map(|k| format!("P{k}")).collect();
    for k in 1..=posts {
        let _ = writeln!(out, "post P{k} T{k}");
    }
    for k in 1..posts {
        let _ = writeln!(out, "rail M{k} M{}", k + 1);
    }
    let plate = t.usual("100 x 100, 8 thick, holes ⌀11", "4 x 4, 5/16 thick, holes ⌀7/16");
    let _ = writeln!(out, "foot at {}, {plate}", feet.join(" "));
    Ok(out)
}
