//! The job file, `*.steelk.json`. An older format is migrated, a newer one refused and left untouched.

use serde::Deserialize;
use serde_json::Value;
use steelk_core::job::{FORMAT, Job};

use crate::strict;

/// Larger files are refused before they are read.
pub const MOST_BYTES: usize = 8 * 1024 * 1024;

#[derive(Debug, thiserror::Error, PartialEq)]
pub enum JobFileError {
    #[error("the file is {0} bytes; {MOST_BYTES} is the most")]
    TooLarge(usize),
    #[error("the file is not JSON: {0}")]
    NotJson(String),
    #[error("the file has no `format` number from 1 up: it is not a Steelk job")]
    NotAJob,
    #[error(
        "the file has format {0}; this Steelk reads up to {FORMAT}. Open it with a newer Steelk; nothing was \
            changed"
    )]
    Newer(u64),
    #[error("the job cannot be read at {at}: {why}")]
    Field { at: String, why: String },
}

pub fn read(bytes: &[u8]) -> Result<Job, JobFileError> {
    if bytes.len() > MOST_BYTES {
        return Err(JobFileError::TooLarge(bytes.len()));
    }
    stored(bytes)
}

/// A job of whatever size: what was taken in can be read back.
pub fn stored(bytes: &[u8]) -> Result<Job, JobFileError> {
    from_value(strict::value(bytes).map_err(JobFileError::NotJson)?)
}

pub fn from_value(value: Value) -> Result<Job, JobFileError> {
    let format = value.get("format").and_then(Value::as_u64).ok_or(JobFileError::NotAJob)?;
    if format == 0 {
        return Err(JobFileError::NotAJob);
    }
    if format > u64::from(FORMAT) {
        return Err(JobFileError::Newer(format));
    }
    // Which field is at fault is followed only where one is.
    if let Ok(job) = Job::deserialize(&value) {
        return Ok(job);
    }
    serde_path_to_error::deserialize(value)
        .map_err(|e| JobFileError::Field { at: e.path().to_string(), why: e.inner().to_string() })
}

pub fn write(job: &Job) -> Vec<u8> {
    let mut out = serde_json::to_vec_pretty(job).unwrap_or_default();
    out.push(b'\n');
    out
}
