//! Pieces of sheet to begin with.

use super::{Beginning, Part, one, piece, size};

pub static ALL: &[Beginning] = &[
    Beginning {
        tag: "plate",
        name: "plate",
        about: "A rectangle.",
        key: 'p',
        bench: piece,
        sizes: &[
            size('A', "length", "260", "10", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "width", "140", "6", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| one(format!("plate {} x {}", t.at('A'), t.at('B'))),
    },
    Beginning {
        tag: "angle",
        name: "angle bracket",
        about: "Two legs at a right angle, a hole in each; sizes outside.",
        key: 'a',
        bench: piece,
        sizes: &[
            size('A', "lying leg", "60", "2 1/2", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "standing leg", "80", "3", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
            size('C', "width", "50", "2", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
            size('D', "holes", "9", "3/8", [0.42, 0.5, 0.0], [0.42, 0.5, 0.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let (a, b, d) = (t.part('A'), t.part('B'), t.at('D'));
            one(format!(
                "strip {} wide: {}, up 90°, {}\nhole ⌀{d} on a, {a}/2 from west\n\
                 hole ⌀{d} on b, {b}/2 from east",
                t.at('C'),
                t.at('A'),
                t.at('B')
            ))
        },
    },
    Beginning {
        tag: "strip",
        name: "bent strip",
        about: "Three legs, up and down again; sizes outside.",
        key: 'z',
        bench: piece,
        sizes: &[
            size('A', "first leg", "40", "1 1/2", [0.0, 0.0, 0.0], [0.341_880_3, 0.0, 0.0]),
            size('B', "rise", "60", "2 1/2", [0.341_880_3, 0.0, 0.0], [0.341_880_3, 0.0, 1.0]),
            size('C', "last leg", "80", "3", [0.316_239_3, 0.0, 1.0], [1.0, 0.0, 1.0]),
            size('D', "width", "50", "2", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let (a, b, c) = (t.at('A'), t.at('B'), t.at('C'));
            one(format!("strip {} wide: {a}, up 90°, {b}, down 90°, {c}", t.at('D')))
        },
    },
    Beginning {
        tag: "channel",
        name: "channel with lips",
        about: "Lip, side, web, side, lip from one strip; sizes outside.",
        key: 'c',
        bench: piece,
        sizes: &[
            size('A', "length", "300", "12", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
            size('B', "web", "120", "5", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('C', "sides", "60", "2 1/2", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
            size('D', "lips", "20", "3/4", [0.0, 0.0, 1.0], [0.166_667, 0.0, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, c, d] = ['A', 'B', 'C', 'D'].map(|l| t.at(l));
            one(format!("channel {a} long, web {b}, sides {c}, lips {d}"))
        },
    },
    Beginning {
        tag: "tray",
        name: "tray",
        about: "Four sides folded up, sizes outside.",
        key: 't',
        bench: piece,
        sizes: &[
            size('A', "length", "260", "10", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "width", "140", "6", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
            size('C', "height", "50", "2", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| one(format!("tray {} x {} x {}", t.at('A'), t.at('B'), t.at('C'))),
    },
    Beginning {
        tag: "box",
        name: "box with a lid",
        about: "A tray, and a second one over it with play all round: two pieces.",
        key: 'b',
        bench: piece,
        sizes: &[
            size('A', "length", "260", "10", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "width", "140", "6", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
            size('C', "height", "80", "3", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
            size('D', "lid reaches down", "25", "1", [0.3, 0.0, 1.45], [0.3, 0.0, 1.45]),
            size('E', "play each side", "0.5", "1/64", [1.12, 0.0, 1.2], [1.12, 0.0, 1.2]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, d, e] = ['A', 'B', 'D', 'E'].map(|l| t.part(l));
            Ok(vec![
                Part { name: "Box", text: format!("tray {} x {} x {}", t.at('A'), t.at('B'), t.at('C')) },
                Part { name: "Lid", text: format!("tray {a} + 2*{e} x {b} + 2*{e} x {d} inside") },
            ])
        },
    },
    Beginning {
        tag: "shell",
        name: "rolled shell",
        about: "Sheet rolled to a part of a tube, or all round; diameter outside.",
        key: 'o',
        bench: piece,
        sizes: &[
            size('A', "diameter", "200", "8", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
            size('B', "length", "300", "12", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
            size('C', "angle", "180°", "180°", [0.4, 0.0, 0.5], [0.4, 0.0, 0.5]),
        ],
        stood: [0.0, 0.0],
        parts: |t| one(format!("shell {} long, diameter {}, angle {}", t.at('B'), t.at('A'), t.at('C'))),
    },
    Beginning {
        tag: "cone",
        name: "cone",
        about: "A frustum with an open seam; diameters outside.",
        key: 'n',
        bench: piece,
        sizes: &[
            size('A', "wide end", "300", "12", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "narrow end", "150", "6", [0.25, 0.5, 1.0], [0.75, 0.5, 1.0]),
            size('C', "height", "200", "8", [1.0, 0.0, 0.0], [1.0, 0.0, 1.0]),
        ],
        stood: [110.556, 0.0],
        parts: |t| one(format!("cone ⌀{} to ⌀{}, {} high", t.at('A'), t.at('B'), t.at('C'))),
    },
    Beginning {
        tag: "transition",
        name: "square to round",
        about: "A rectangle below, a circle above, creased along lines; sizes outside.",
        key: 'q',
        bench: piece,
        sizes: &[
            size('A', "width", "600", "24", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "depth", "500", "20", [1.0, 0.0, 0.0], [1.0, 1.0, 0.0]),
            size('C', "circle", "300", "12", [0.25, 0.5, 1.0], [0.75, 0.5, 1.0]),
            size('D', "height", "500", "20", [0.0, 0.0, 0.0], [0.0, 0.0, 1.0]),
        ],
        stood: [0.0, 101.203],
        parts: |t| {
            let [a, b, c, d] = ['A', 'B', 'C', 'D'].map(|l| t.at(l));
            one(format!("transition rectangle {a} x {b} to round ⌀{c}, {d} high"))
        },
    },
    Beginning {
        tag: "pyramid",
        name: "pyramid",
        about: "Four sides round a base, creased, to cut from film or card; sizes outside.",
        key: 'y',
        bench: piece,
        sizes: &[
            size('A', "width", "300", "12", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "depth", "240", "10", [1.0, 0.0, 0.0], [1.0, 1.0, 0.0]),
            size('C', "height", "350", "14", [0.0, 0.0, 0.0], [0.0, 0.0, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, c] = ['A', 'B', 'C'].map(|l| t.at(l));
            one(format!(
                "transition rectangle {a} x {b} to point, {c} high, creased, round the bottom, closed below"
            ))
        },
    },
    Beginning {
        tag: "ring",
        name: "ring",
        about: "A disc with a round hole.",
        key: 'r',
        bench: piece,
        sizes: &[
            size('A', "outside", "200", "8", [0.5, 0.0, 1.0], [0.5, 1.0, 1.0]),
            size('B', "inside", "120", "5", [0.2, 0.5, 1.0], [0.8, 0.5, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| one(format!("ring ⌀{}, hole ⌀{}", t.at('A'), t.at('B'))),
    },
    Beginning {
        tag: "flange",
        name: "bolted flange",
        about: "A square flange with four bolts and a bore.",
        key: 'f',
        bench: piece,
        sizes: &[
            size('A', "side", "140", "5 1/2", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "bolts apart", "100", "4", [0.142_857, 0.857_143, 1.0], [0.857_143, 0.857_143, 1.0]),
            size('C', "bolt holes", "14", "9/16", [0.142_857, 0.142_857, 1.0], [0.142_857, 0.142_857, 1.0]),
            size('D', "bore", "60", "2 1/2", [0.285_714, 0.5, 1.0], [0.714_286, 0.5, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, c, d] = ['A', 'B', 'C', 'D'].map(|l| t.at(l));
            one(format!("four-bolt flange {a}, corners R{}/7, bolts ⌀{c} at {b}, bore ⌀{d}", t.part('A')))
        },
    },
    Beginning {
        tag: "gusset",
        name: "gusset",
        about: "A triangle with its corner snipped, for the weld to pass, and blunt tips.",
        key: 'g',
        bench: piece,
        sizes: &[
            size('A', "lying side", "120", "5", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "standing side", "100", "4", [0.0, 0.0, 0.0], [0.0, 1.0, 0.0]),
            size('C', "snip", "15", "5/8", [0.06, 0.07, 1.0], [0.06, 0.07, 1.0]),
            size('D', "tips", "10", "3/8", [1.0, 0.0, 1.0], [1.0, 0.1, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, c, d] = ['A', 'B', 'C', 'D'].map(|l| t.at(l));
            one(format!("gusset {a} x {b}, snipped {c}, tips {d}"))
        },
    },
    Beginning {
        tag: "contour",
        name: "outline",
        about: "Told side by side: begin with four, and change, add and join them.",
        key: 'u',
        bench: piece,
        sizes: &[
            size('A', "first side, east", "120", "5", [0.0, 0.0, 0.0], [1.0, 0.0, 0.0]),
            size('B', "second side, north", "60", "2 1/2", [0.0, 1.0, 0.0], [0.0, 0.0, 0.0]),
            size('C', "rounding", "20", "3/4", [0.93, 0.93, 1.0], [0.93, 0.93, 1.0]),
        ],
        stood: [0.0, 0.0],
        parts: |t| {
            let [a, b, c] = ['A', 'B', 'C'].map(|l| t.at(l));
            one(format!(
                "contour line {a} east, line {b} north rounded R{c}, line west plumb with start, close"
            ))
        },
    },
];
