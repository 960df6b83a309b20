//! The frame of a DXF file of version R2000: head, tables, blocks, entities and objects, each with its handle
//! and its owner.

use glam::DVec2;
use steelk_core::geom::Bounds;
use steelk_core::quantity::LengthUnit;

use super::codes::{add, hex, numbers, real, text, texts, whole};

/// A file being written: its entities, and the next free handle.
pub struct File {
    body: String,
    next: u32,
}

/// Handles that others name before they are written.
const MODEL: u32 = 0x1;
const PAPER: u32 = 0x2;
const ROOT: u32 = 0x3;
const GROUPS: u32 = 0x4;
const LAYOUTS: u32 = 0x5;
const MODEL_LAYOUT: u32 = 0x6;
const PAPER_LAYOUT: u32 = 0x7;
const FIRST_FREE: u32 = 0x10;

pub const HIDDEN: &str = "HIDDEN";
pub const CENTRE: &str = "CENTRE";

/// Lines of dashes and gaps, mm on paper, by the layers that they are for.
const DASHES: &[(&str, &[f64])] = &[(HIDDEN, &[2.0, -1.0]), (CENTRE, &[7.0, -1.2, 1.2, -1.2])];

impl Default for File {
    fn default() -> Self {
        File { body: String::new(), next: FIRST_FREE }
    }
}

impl File {
    fn handle(&mut self) -> u32 {
        self.next += 1;
        self.next - 1
    }

    fn entity(&mut self, kind: &str, layer: &str, class: &str) {
        let handle = self.handle();
        texts(
            &mut self.body,
            &[
                (0, kind),
                (5, &hex(handle)),
                (330, &hex(MODEL)),
                (100, "AcDbEntity"),
                (8, layer),
                (100, class),
            ],
        );
    }

    pub fn line(&mut self, layer: &str, a: DVec2, b: DVec2) {
        self.entity("LINE", layer, "AcDbLine");
        numbers(&mut self.body, &[(10, a.x), (20, a.y), (30, 0.0), (11, b.x), (21, b.y), (31, 0.0)]);
    }

    pub fn circle(&mut self, layer: &str, centre: DVec2, radius: f64) {
        self.entity("CIRCLE", layer, "AcDbCircle");
        numbers(&mut self.body, &[(10, centre.x), (20, centre.y), (30, 0.0), (40, radius)]);
    }

    /// Closed: corners with the bulge of the side that leaves each.
    pub fn polyline(&mut self, layer: &str, corners: &[(DVec2, f64)]) {
        self.entity("LWPOLYLINE", layer, "AcDbPolyline");
        whole(&mut self.body, &[(90, corners.len() as i64), (70, 1)]);
        numbers(&mut self.body, &[(43, 0.0)]);
        for (p, bulge) in corners {
            numbers(&mut self.body, &[(10, p.x), (20, p.y)]);
            if *bulge != 0.0 {
                numbers(&mut self.body, &[(42, *bulge)]);
            }
        }
    }

    /// Open, of straight sides.
    pub fn path(&mut self, layer: &str, points: &[DVec2]) {
        self.entity("LWPOLYLINE", layer, "AcDbPolyline");
        // The pattern of its line runs on round its corners.
        whole(&mut self.body, &[(90, points.len() as i64), (70, 128)]);
        numbers(&mut self.body, &[(43, 0.0)]);
        points.iter().for_each(|p| numbers(&mut self.body, &[(10, p.x), (20, p.y)]));
    }

    /// `at` is the left end of its foot, its middle or its right end: `place` 0, 1 or 2.
    pub fn aligned(&mut self, layer: &str, at: DVec2, height: f64, angle: f64, said: &str, place: i64) {
        self.entity("TEXT", layer, "AcDbText");
        numbers(&mut self.body, &[(10, at.x), (20, at.y), (30, 0.0), (40, height)]);
        add(&mut self.body, 1, &text(said));
        numbers(&mut self.body, &[(50, angle.to_degrees())]);
        if place > 0 {
            whole(&mut self.body, &[(72, place)]);
            numbers(&mut self.body, &[(11, at.x), (21, at.y), (31, 0.0)]);
        }
        add(&mut self.body, 100, "AcDbText");
    }

    /// `at` is the left end of its foot.
    pub fn text(&mut self, layer: &str, at: DVec2, height: f64, angle: f64, said: &str) {
        self.entity("TEXT", layer, "AcDbText");
        numbers(&mut self.body, &[(10, at.x), (20, at.y), (30, 0.0), (40, height)]);
        add(&mut self.body, 1, &text(said));
        numbers(&mut self.body, &[(50, angle.to_degrees())]);
        add(&mut self.body, 100, "AcDbText");
    }

    /// The whole file. `layers`: name and colour; `bounds` of what is drawn, in the file's unit; `saved_at`
    /// in seconds since 1970.
    pub fn finish(
        mut self,
        layers: &[(&str, i64)],
        unit: LengthUnit,
        bounds: Bounds,
        saved_at: i64,
    ) -> Vec<u8> {
        let tables = self.tables(layers, bounds);
        let blocks = self.blocks();
        let mut out = self.head(unit, bounds, saved_at);
        for (name, body) in [
            ("CLASSES", ""),
            ("TABLES", &tables),
            ("BLOCKS", &blocks),
            ("ENTITIES", &self.body),
            ("OBJECTS", &objects()),
        ] {
            section(&mut out, name, body);
        }
        add(&mut out, 0, "EOF");
        out.into_bytes()
    }

    fn head(&self, unit: LengthUnit, b: Bounds, saved_at: i64) -> String {
        let mut h = String::new();
        let mut own = |name: &str, code: i32, value: &str| texts(&mut h, &[(9, name), (code, value)]);
        own("$ACADVER", 1, "AC1015");
        own("$DWGCODEPAGE", 3, "ANSI_1252");
        let (units, metric) = match unit {
            LengthUnit::Mm => ("4", "1"),
            LengthUnit::In => ("1", "0"),
        };
        own("$INSUNITS", 70, units);
        own("$MEASUREMENT", 70, metric);
        own("$LUNITS", 70, "2");
        own("$HANDSEED", 5, &hex(self.next + 1));
        // Days since the beginning of the Julian calendar's count.
        let day = real(saved_at as f64 / 86_400.0 + 2_440_587.5);
        own("$TDCREATE", 40, &day);
        own("$TDUPDATE", 40, &day);
        for (name, p) in [("$EXTMIN", b.min), ("$EXTMAX", b.max)] {
            add(&mut h, 9, name);
            numbers(&mut h, &[(10, p.x), (20, p.y), (30, 0.0)]);
        }
        let mut out = String::new();
        section(&mut out, "HEADER", &h);
        out
    }

    fn tables(&mut self, layers: &[(&str, i64)], b: Bounds) -> String {
        let mut t = String::new();
        let view = self.table(&mut t, "VPORT", 1);
        self.record(&mut t, "VPORT", "AcDbViewportTableRecord", "*Active", view);
        let (c, s) = (b.centre(), b.size());
        numbers(
            &mut t,
            &[
                (10, 0.0),
                (20, 0.0),
                (11, 1.0),
                (21, 1.0),
                (12, c.x),
                (22, c.y),
                (13, 0.0),
                (23, 0.0),
                (14, 10.0),
                (24, 10.0),
                (15, 10.0),
                (25, 10.0),
            ],
        );
        numbers(
            &mut t,
            &[
                (16, 0.0),
                (26, 0.0),
                (36, 1.0),
                (17, 0.0),
                (27, 0.0),
                (37, 0.0),
                (40, 1.2 * s.x.max(s.y)),
                (41, 1.6),
                (42, 50.0),
            ],
        );
        numbers(&mut t, &[(43, 0.0), (44, 0.0), (50, 0.0), (51, 0.0)]);
        whole(&mut t, &[(71, 0), (72, 1000), (73, 1), (74, 3), (75, 0), (76, 0), (77, 0), (78, 0)]);
        end(&mut t);
        let lines = self.table(&mut t, "LTYPE", 3 + DASHES.len() as i64);
        for name in ["ByBlock", "ByLayer", "Continuous"] {
            self.record(&mut t, "LTYPE", "AcDbLinetypeTableRecord", name, lines);
            add(&mut t, 3, "");
            whole(&mut t, &[(72, 65), (73, 0)]);
            numbers(&mut t, &[(40, 0.0)]);
        }
        for (layer, dashes) in DASHES {
            self.record(&mut t, "LTYPE", "AcDbLinetypeTableRecord", layer, lines);
            add(&mut t, 3, "");
            whole(&mut t, &[(72, 65), (73, dashes.len() as i64)]);
            numbers(&mut t, &[(40, dashes.iter().map(|d| d.abs()).sum())]);
            for d in *dashes {
                numbers(&mut t, &[(49, *d)]);
                whole(&mut t, &[(74, 0)]);
            }
        }
        end(&mut t);
        let table = self.table(&mut t, "LAYER", layers.len() as i64 + 1);
        for (name, colour) in std::iter::once(&("0", 7)).chain(layers) {
            self.record(&mut t, "LAYER", "AcDbLayerTableRecord", name, table);
            whole(&mut t, &[(62, *colour)]);
            // A layer of dashes is called as they are.
            add(&mut t, 6, DASHES.iter().find(|d| d.0 == *name).map_or("Continuous", |d| d.0));
            // The usual weight of the reader.
            whole(&mut t, &[(370, -3)]);
        }
        end(&mut t);
        let style = self.table(&mut t, "STYLE", 1);
        self.record(&mut t, "STYLE", "AcDbTextStyleTableRecord", "Standard", style);
        numbers(&mut t, &[(40, 0.0), (41, 1.0), (50, 0.0)]);
        whole(&mut t, &[(71, 0)]);
        numbers(&mut t, &[(42, 2.5)]);
        texts(&mut t, &[(3, "txt"), (4, "")]);
        end(&mut t);
        for name in ["VIEW", "UCS"] {
            self.table(&mut t, name, 0);
            end(&mut t);
        }
        let app = self.table(&mut t, "APPID", 1);
        self.record(&mut t, "APPID", "AcDbRegAppTableRecord", "ACAD", app);
        end(&mut t);
        let dim = self.table(&mut t, "DIMSTYLE", 1);
        texts(&mut t, &[(100, "AcDbDimStyleTable"), (71, "0")]);
        let handle = self.handle();
        texts(
            &mut t,
            &[
                (0, "DIMSTYLE"),
                (105, &hex(handle)),
                (330, &hex(dim)),
                (100, "AcDbSymbolTableRecord"),
                (100, "AcDbDimStyleTableRecord"),
            ],
        );
        texts(&mut t, &[(2, "Standard"), (70, "0")]);
        end(&mut t);
        let records = self.table(&mut t, "BLOCK_RECORD", 2);
        for (handle, name, layout) in
            [(MODEL, "*Model_Space", MODEL_LAYOUT), (PAPER, "*Paper_Space", PAPER_LAYOUT)]
        {
            texts(
                &mut t,
                &[
                    (0, "BLOCK_RECORD"),
                    (5, &hex(handle)),
                    (330, &hex(records)),
                    (100, "AcDbSymbolTableRecord"),
                    (100, "AcDbBlockTableRecord"),
                ],
            );
            texts(&mut t, &[(2, name), (340, &hex(layout))]);
        }
        end(&mut t);
        t
    }

    /// Begins a table; its handle.
    fn table(&mut self, to: &mut String, name: &str, records: i64) -> u32 {
        let handle = self.handle();
        texts(to, &[(0, "TABLE"), (2, name), (5, &hex(handle)), (330, "0"), (100, "AcDbSymbolTable")]);
        whole(to, &[(70, records)]);
        handle
    }

    fn record(&mut self, to: &mut String, kind: &str, class: &str, name: &str, table: u32) {
        let handle = self.handle();
        texts(
            to,
            &[
                (0, kind),
                (5, &hex(handle)),
                (330, &hex(table)),
                (100, "AcDbSymbolTableRecord"),
                (100, class),
                (2, name),
                (70, "0"),
            ],
        );
    }

    fn blocks(&mut self) -> String {
        let mut out = String::new();
        for (record, name) in [(MODEL, "*Model_Space"), (PAPER, "*Paper_Space")] {
            let (begin, finish) = (self.handle(), self.handle());
            let head = |to: &mut String, kind: &str, handle: u32, class: &str| {
                texts(to, &[(0, kind), (5, &hex(handle)), (330, &hex(record)), (100, "AcDbEntity")]);
                if record == PAPER {
                    add(to, 67, "1");
                }
                texts(to, &[(8, "0"), (100, class)]);
            };
            head(&mut out, "BLOCK", begin, "AcDbBlockBegin");
            texts(&mut out, &[(2, name), (70, "0")]);
            numbers(&mut out, &[(10, 0.0), (20, 0.0), (30, 0.0)]);
            texts(&mut out, &[(3, name), (1, "")]);
            head(&mut out, "ENDBLK", finish, "AcDbBlockEnd");
        }
        out
    }
}

fn end(to: &mut String) {
    add(to, 0, "ENDTAB");
}

fn section(to: &mut String, name: &str, body: &str) {
    texts(to, &[(0, "SECTION"), (2, name)]);
    to.push_str(body);
    add(to, 0, "ENDSEC");
}

/// The root dictionary, and a layout for each of the two spaces.
fn objects() -> String {
    let mut o = String::new();
    let mut dictionary = |handle: u32, owner: u32, entries: &[(&str, u32)]| {
        texts(
            &mut o,
            &[(0, "DICTIONARY"), (5, &hex(handle)), (330, &hex(owner)), (100, "AcDbDictionary"), (281, "1")],
        );
        entries.iter().for_each(|(name, to)| texts(&mut o, &[(3, name), (350, &hex(*to))]));
    };
    dictionary(ROOT, 0, &[("ACAD_GROUP", GROUPS), ("ACAD_LAYOUT", LAYOUTS)]);
    dictionary(GROUPS, ROOT, &[]);
    dictionary(LAYOUTS, ROOT, &[("Model", MODEL_LAYOUT), ("Layout1", PAPER_LAYOUT)]);
    for (handle, name, order, block) in
        [(MODEL_LAYOUT, "Model", 0, MODEL), (PAPER_LAYOUT, "Layout1", 1, PAPER)]
    {
        texts(
            &mut o,
            &[
                (0, "LAYOUT"),
                (5, &hex(handle)),
                (330, &hex(LAYOUTS)),
                (100, "AcDbPlotSettings"),
                (1, ""),
                (2, ""),
                (4, ""),
                (6, ""),
            ],
        );
        numbers(
            &mut o,
            &[
                (40, 0.0),
                (41, 0.0),
                (42, 0.0),
                (43, 0.0),
                (44, 0.0),
                (45, 0.0),
                (46, 0.0),
                (47, 0.0),
                (48, 0.0),
                (49, 0.0),
            ],
        );
        numbers(&mut o, &[(140, 0.0), (141, 0.0), (142, 1.0), (143, 1.0)]);
        whole(&mut o, &[(70, 1024), (72, 1), (73, 0), (74, 5)]);
        add(&mut o, 7, "");
        whole(&mut o, &[(75, 16)]);
        numbers(&mut o, &[(147, 1.0), (148, 0.0), (149, 0.0)]);
        texts(&mut o, &[(100, "AcDbLayout"), (1, name)]);
        whole(&mut o, &[(70, 1), (71, order)]);
        numbers(
            &mut o,
            &[
                (10, 0.0),
                (20, 0.0),
                (11, 420.0),
                (21, 297.0),
                (12, 0.0),
                (22, 0.0),
                (32, 0.0),
                (14, 0.0),
                (24, 0.0),
                (34, 0.0),
            ],
        );
        numbers(
            &mut o,
            &[
                (15, 420.0),
                (25, 297.0),
                (35, 0.0),
                (146, 0.0),
                (13, 0.0),
                (23, 0.0),
                (33, 0.0),
                (16, 1.0),
                (26, 0.0),
                (36, 0.0),
            ],
        );
        numbers(&mut o, &[(17, 0.0), (27, 1.0), (37, 0.0)]);
        whole(&mut o, &[(76, 0)]);
        add(&mut o, 330, &hex(block));
    }
    o
}
