//! The shipped sample job.

use steelk_formats::jobfile;

use crate::api::State;

const LINE: &str = include_str!("../../../demo/orchard-line.steelk.json");

/// Puts the sample on an empty rack; a rack with jobs is left as it is.
pub fn fill(state: &State) -> Result<bool, String> {
    let held = |archived| state.store.jobs(archived, 0, 1).map(|r| r.1);
    if held(false).map_err(|e| e.to_string())? + held(true).map_err(|e| e.to_string())? > 0 {
        return Ok(false);
    }
    let job = jobfile::read(LINE.as_bytes()).map_err(|e| e.to_string())?;
    crate::api::file_new(state, job, "shipped sample").map_err(|e| e.to_string())?;
    Ok(true)
}
