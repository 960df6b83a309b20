//! Whose file is it? Asked before a data base is opened for writing, copied or put in place; the file is only
//! read.

use std::io::Read;
use std::path::{Path, PathBuf};

use rusqlite::{Connection, OpenFlags};

use crate::error::{StoreError, file};
use crate::schema::{APPLICATION_ID, VERSION};

/// What stands at a path.
#[derive(Debug, PartialEq)]
pub enum Found {
    Nothing,
    /// A data base of Steelk, with the version of its tables.
    Ours(i64),
}

const MAGIC: &[u8; 16] = b"SQLite format 3\0";

/// The same path with something behind its name: `-wal`, `.lock`.
pub(crate) fn beside(path: &Path, tail: &str) -> PathBuf {
    let mut name = path.as_os_str().to_owned();
    name.push(tail);
    name.into()
}

/// What stands at `path`; refuses what is another program's or a newer Steelk's.
pub fn identify(path: &Path) -> Result<Found, StoreError> {
    let mut head = Vec::new();
    match std::fs::File::open(path) {
        Err(e) if e.kind() == std::io::ErrorKind::NotFound => return Ok(Found::Nothing),
        Err(e) => return Err(file(path)(e)),
        Ok(f) => f.take(16).read_to_end(&mut head).map_err(file(path))?,
    };
    if head.is_empty() {
        return Ok(Found::Nothing);
    }
    let foreign = |why: &str| StoreError::Foreign { path: path.into(), why: why.into() };
    if head != MAGIC {
        return Err(foreign("it is no SQLite file, or its first bytes are damaged"));
    }
    let db = open_to_read(path)?;
    let number = |pragma: &str| db.query_row(&format!("PRAGMA {pragma}"), [], |r| r.get::<_, i64>(0));
    let (application, version) = (number("application_id")?, number("user_version")?);
    if application != APPLICATION_ID && (application != 0 || !first_schema(&db, version)?) {
        return Err(foreign("it holds other tables"));
    }
    if version > VERSION {
        return Err(StoreError::Newer { path: path.into(), version });
    }
    Ok(Found::Ours(version))
}

/// Only what is read: without a log beside it, not even SQLite's own side files are made.
pub(crate) fn open_to_read(path: &Path) -> Result<Connection, StoreError> {
    let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
    if beside(path, "-wal").exists() {
        return Ok(Connection::open_with_flags(path, flags)?);
    }
    let name = path
        .to_str()
        .ok_or_else(|| StoreError::File { path: path.into(), why: "the name is not text".into() })?;
    let escaped: String = name.replace('%', "%25").replace('?', "%3f").replace('#', "%23");
    Ok(Connection::open_with_flags(
        format!("file:{escaped}?immutable=1"),
        flags | OpenFlags::SQLITE_OPEN_URI,
    )?)
}

/// The tables of the first schema, which had no mark of its own.
fn first_schema(db: &Connection, version: i64) -> Result<bool, StoreError> {
    let mut ask = db.prepare(
        "SELECT name FROM sqlite_master WHERE type IN ('table', 'trigger') AND name NOT \
        LIKE 'sqlite_%' ORDER BY name",
    )?;
    let names = ask.query_map([], |r| r.get::<_, String>(0))?.collect::<Result<Vec<_>, _>>()?;
    // Made but not yet filled: a start that was cut off.
    Ok((version == 0 && names.is_empty())
        || (version == 1 && names == ["jobs", "revisions", "revisions_hold", "revisions_stay"]))
}
