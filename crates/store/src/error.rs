//! What can go wrong with a data base, in words that say what to do.

use std::path::{Path, PathBuf};

use rusqlite::ErrorCode;

#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    #[error("no job has the id '{0}'")]
    NoJob(String),
    #[error("the job has no revision {0}")]
    NoRevision(i64),
    /// Somebody saved in between.
    #[error("the job was saved as revision {current} since revision {based_on} was read")]
    Stale { based_on: i64, current: i64 },
    /// Another program or server writes; nothing was done.
    #[error("the data base is busy with another save")]
    Busy,
    #[error("the disk is full; nothing was saved")]
    Full,
    #[error(
        "the data base is damaged ({0}); it is shown as far as it can be read, and nothing is saved into it"
    )]
    Damaged(String),
    #[error("{path} is not a data base of Steelk ({why}); it was not touched")]
    Foreign { path: PathBuf, why: String },
    #[error("{path} was written by a newer Steelk (its tables are version {version}); it was not touched")]
    Newer { path: PathBuf, version: i64 },
    #[error("{0} is in use by a server; stop it first")]
    Held(PathBuf),
    #[error("{0} was removed or replaced while the server ran; nothing more is saved into it")]
    Gone(PathBuf),
    #[error("there is no data base at {0}")]
    Missing(PathBuf),
    #[error("the data base: {0}")]
    Sql(rusqlite::Error),
    #[error("{path}: {why}")]
    File { path: PathBuf, why: String },
}

impl From<rusqlite::Error> for StoreError {
    fn from(e: rusqlite::Error) -> Self {
        match e.sqlite_error_code() {
            Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked) => StoreError::Busy,
            Some(ErrorCode::DiskFull) => StoreError::Full,
            Some(ErrorCode::DatabaseCorrupt | ErrorCode::NotADatabase) => StoreError::Damaged(e.to_string()),
            _ => StoreError::Sql(e),
        }
    }
}

impl From<rusqlite_migration::Error> for StoreError {
    fn from(e: rusqlite_migration::Error) -> Self {
        match e {
            rusqlite_migration::Error::RusqliteError { err, .. } => err.into(),
            other => StoreError::Damaged(other.to_string()),
        }
    }
}

/// A failure of the file system, with the file it is about.
pub(crate) fn file(path: &Path) -> impl Fn(std::io::Error) -> StoreError + use<> {
    let path = path.to_path_buf();
    move |e| match e.kind() {
        std::io::ErrorKind::StorageFull => StoreError::Full,
        _ => StoreError::File { path: path.clone(), why: e.to_string() },
    }
}
