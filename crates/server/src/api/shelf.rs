//! What does not change while the server runs: its health, and the shop book.

use actix_web::web::Json;
use serde::Serialize;
use steelk_core::shopbook::{self, Material, gauge, limits};
use utoipa::ToSchema;

#[derive(Serialize, ToSchema)]
pub struct Health {
    pub version: &'static str,
    pub format: u32,
}

#[utoipa::path(get, path = "/api/health", responses((status = 200, body = Health)))]
pub async fn health() -> Json<Health> {
    Json(Health { version: env!("CARGO_PKG_VERSION"), format: steelk_core::job::FORMAT })
}

#[derive(Serialize, ToSchema)]
pub struct GaugeRow {
    pub number: u32,
    pub mm: f64,
}

#[derive(Serialize, ToSchema)]
pub struct RadiusRow {
    pub thickness: f64,
    pub radius: f64,
}

/// A material with its gauges and smallest radii.
#[derive(Serialize, ToSchema)]
pub struct ShelfMaterial {
    #[serde(flatten)]
    pub material: Material,
    pub gauge_said: String,
    pub gauges: Vec<GaugeRow>,
    pub radii: Vec<RadiusRow>,
}

#[derive(Serialize, ToSchema)]
pub struct Book {
    pub materials: Vec<ShelfMaterial>,
    /// Preferred metric thicknesses, mm.
    pub thicknesses: Vec<f64>,
}

const PREFERRED: [f64; 23] = [0.5, 0.6, 0.8, 1.0, 1.2, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 80.0];

#[utoipa::path(get, path = "/api/book", responses((status = 200, body = Book)))]
pub async fn book() -> Json<Book> {
    let shelf = |m: &Material| ShelfMaterial {
        material: m.clone(),
        gauge_said: m.gauge.map_or("", |g| g.said()).into(),
        gauges: m.gauge.map_or(Vec::new(), gauge::table).into_iter().map(|(number, mm)| GaugeRow { number, mm }).collect(),
        radii: PREFERRED
            .iter()
            .filter(|t| **t <= 12.0)
            .filter_map(|&t| Some(RadiusRow { thickness: t, radius: limits::smallest_radius(m, t)?.value }))
            .collect(),
    };
    Json(Book { materials: shopbook::materials().iter().map(shelf).collect(), thicknesses: PREFERRED.to_vec() })
}
