//! Steelk's store: jobs as documents, every save a new row, nothing ever overwritten.

mod copies;
mod error;
mod hold;
mod identify;
mod schema;

use std::fs::File;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard};
use std::time::{Duration, SystemTime, UNIX_EPOCH};

use rusqlite::{Connection, OpenFlags, OptionalExtension, TransactionBehavior, params};
use serde::{Deserialize, Serialize};

pub use copies::{Contents, Restored, backup, restore};
pub use error::StoreError;
use hold::{Opened, settled};
use identify::{Found, identify};

/// What the rack shows of a job; `summary` is whatever the caller filed with the newest revision.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct JobRow {
    pub id: String,
    pub title: String,
    pub number: String,
    pub revision: i64,
    /// Seconds since 1970.
    pub saved_at: i64,
    pub archived: bool,
    pub summary: String,
}

#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct RevisionRow {
    pub revision: i64,
    pub saved_at: i64,
    pub note: String,
    pub summary: String,
}

/// What a save files.
#[derive(Clone, Copy, Debug, Default)]
pub struct Save<'a> {
    pub title: &'a str,
    pub number: &'a str,
    pub note: &'a str,
    pub document: &'a str,
    pub summary: &'a str,
    /// The ticket's picture; it can be made again from the document.
    pub picture: &'a str,
    /// The saver's own name of this save: the same save sent twice is filed once.
    pub token: &'a str,
    /// Earlier saves of the same saver whose answers never came: this one may also stand on any of them.
    pub after: &'a [String],
}

/// Where a job stands after a save, or now.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Head {
    pub revision: i64,
    pub token: String,
    pub archived: bool,
}

/// How long a save waits for another program that writes. Readers never wait.
const PATIENCE: Duration = Duration::from_millis(1500);

/// Connections for reading that are kept for the next reader.
const IDLE_READERS: usize = 8;

pub struct Store {
    writer: Mutex<Connection>,
    readers: Mutex<Vec<Connection>>,
    path: PathBuf,
    opened: Opened,
    /// Why nothing can be saved.
    damage: Option<String>,
    _lock: File,
}

pub(crate) fn now() -> i64 {
    SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |d| d.as_secs() as i64)
}

fn held<T>(of: &Mutex<T>) -> MutexGuard<'_, T> {
    // A panic elsewhere does not lock the store for good.
    of.lock().unwrap_or_else(|e| e.into_inner())
}

impl Store {
    /// Opens or makes the data base: write-ahead log, every commit on the disk before it is acknowledged. One
    /// that is damaged is opened for reading only; what is not Steelk's is refused untouched.
    pub fn open(path: &Path) -> Result<Store, StoreError> {
        if let Some(folder) = path.parent() {
            std::fs::create_dir_all(folder).map_err(error::file(folder))?;
        }
        let path = settled(path);
        let damage = match identify(&path).and_then(|found| check(&path, &found)) {
            Ok(()) => None,
            Err(StoreError::Damaged(why)) => Some(why),
            Err(other) => return Err(other),
        };
        let lock = hold::share(&path)?;
        let writer = match &damage {
            Some(_) => reader(&path)?,
            None => writer(&path)?,
        };
        let opened = Opened::new(&path);
        Ok(Store { writer: Mutex::new(writer), readers: Mutex::default(), path, opened, damage, _lock: lock })
    }

    /// Why nothing can be saved, where that is so.
    pub fn damage(&self) -> Option<&str> {
        self.damage.as_deref()
    }

    /// Reads, beside whoever reads or writes.
    fn read<T>(&self, f: impl FnOnce(&Connection) -> Result<T, StoreError>) -> Result<T, StoreError> {
        let idle = held(&self.readers).pop();
        let db = match idle {
            Some(db) => db,
            None => reader(&self.path)?,
        };
        let got = f(&db)?;
        let mut idle = held(&self.readers);
        if idle.len() < IDLE_READERS {
            idle.push(db);
        }
        Ok(got)
    }

    /// Writes in one transaction; done only when it is in the files that were opened.
    fn write<T>(
        &self,
        f: impl FnOnce(&rusqlite::Transaction) -> Result<T, StoreError>,
    ) -> Result<T, StoreError> {
        if let Some(why) = &self.damage {
            return Err(StoreError::Damaged(why.clone()));
        }
        let mut db = held(&self.writer);
        self.opened.stands()?;
        let tx = db.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let got = f(&tx)?;
        tx.commit()?;
        self.opened.stands()?;
        Ok(got)
    }

    /// A page of the rack, the last saved first, and how many there are in all.
    pub fn jobs(
        &self,
        archived: bool,
        offset: usize,
        limit: usize,
    ) -> Result<(Vec<JobRow>, usize), StoreError> {
        self.read(|db| {
            let total: i64 =
                db.query_row("SELECT count(*) FROM jobs WHERE archived = ?1", [archived], |r| r.get(0))?;
            let mut ask = db.prepare_cached(
                "SELECT j.id, r.title, r.number, r.revision, r.saved_at, j.archived, r.summary FROM jobs j \
                 JOIN revisions r ON r.job = j.id AND r.revision = j.head WHERE j.archived = ?1 ORDER BY \
                 r.saved_at DESC, j.rowid DESC LIMIT ?2 OFFSET ?3",
            )?;
            let rows = ask
                .query_map(params![archived, small(limit), small(offset)], job_row)?
                .collect::<Result<_, _>>()?;
            Ok((rows, total as usize))
        })
    }

    /// The newest document of a job.
    pub fn job(&self, id: &str) -> Result<(JobRow, String), StoreError> {
        let ask = "SELECT j.id, r.title, r.number, r.revision, r.saved_at, j.archived, r.summary, r.document \
            FROM jobs j \
                   JOIN revisions r ON r.job = j.id AND r.revision = j.head WHERE j.id = ?1";
        self.read(|db| {
            let row = db.prepare_cached(ask)?.query_row([id], |r| Ok((job_row(r)?, r.get(7)?))).optional()?;
            row.ok_or_else(|| StoreError::NoJob(id.into()))
        })
    }

    /// Where a job stands now.
    pub fn head(&self, id: &str) -> Result<Head, StoreError> {
        self.read(|db| head(db, id))
    }

    pub fn create(&self, id: &str, save: &Save) -> Result<i64, StoreError> {
        self.write(|tx| {
            tx.execute("INSERT INTO jobs (id, head, archived) VALUES (?1, 1, 0)", [id])?;
            insert_revision(tx, id, 1, save)?;
            Ok(1)
        })
    }

    /// A new revision on top of `based_on`, or the refusal that names the newer one.
    pub fn save(&self, id: &str, based_on: i64, save: &Save) -> Result<Head, StoreError> {
        self.write(|tx| {
            let head = head(tx, id)?;
            let is = |token: &str| !token.is_empty() && head.token == token;
            if is(save.token) {
                return Ok(head);
            }
            if head.revision != based_on && !save.after.iter().any(|t| is(t)) {
                return Err(StoreError::Stale { based_on, current: head.revision });
            }
            let revision = head.revision + 1;
            insert_revision(tx, id, revision, save)?;
            tx.execute("UPDATE jobs SET head = ?2 WHERE id = ?1", params![id, revision])?;
            Ok(Head { revision, token: save.token.into(), archived: head.archived })
        })
    }

    /// Takes a job off the rack, or puts it back. Nothing is removed.
    pub fn archive(&self, id: &str, archived: bool) -> Result<(), StoreError> {
        self.write(|tx| {
            match tx.execute("UPDATE jobs SET archived = ?2 WHERE id = ?1", params![id, archived])? {
                0 => Err(StoreError::NoJob(id.into())),
                _ => Ok(()),
            }
        })
    }

    /// A page of a job's revisions, the newest first, and how many there are in all.
    pub fn revisions(
        &self,
        id: &str,
        offset: usize,
        limit: usize,
    ) -> Result<(Vec<RevisionRow>, usize), StoreError> {
        self.read(|db| {
            let total: i64 =
                db.query_row("SELECT count(*) FROM revisions WHERE job = ?1", [id], |r| r.get(0))?;
            if total == 0 {
                return Err(StoreError::NoJob(id.into()));
            }
            let mut ask = db.prepare_cached(
                "SELECT revision, saved_at, note, summary FROM revisions WHERE job = ?1 \
                    ORDER BY revision DESC LIMIT ?2 OFFSET ?3",
            )?;
            let row = |r: &rusqlite::Row| {
                Ok(RevisionRow {
                    revision: r.get(0)?,
                    saved_at: r.get(1)?,
                    note: r.get(2)?,
                    summary: r.get(3)?,
                })
            };
            let rows =
                ask.query_map(params![id, small(limit), small(offset)], row)?.collect::<Result<_, _>>()?;
            Ok((rows, total as usize))
        })
    }

    /// The document as it stood at a revision.
    pub fn revision(&self, id: &str, revision: i64) -> Result<String, StoreError> {
        Ok(self.revision_at(id, revision)?.0)
    }

    /// The document as it stood at a revision, and when that was saved.
    pub fn revision_at(&self, id: &str, revision: i64) -> Result<(String, i64), StoreError> {
        let ask = "SELECT document, saved_at FROM revisions WHERE job = ?1 AND revision = ?2";
        self.read(|db| {
            let row = db
                .prepare_cached(ask)?
                .query_row(params![id, revision], |r| Ok((r.get(0)?, r.get(1)?)))
                .optional()?;
            row.ok_or(StoreError::NoRevision(revision))
        })
    }

    /// The ticket's picture, if one was filed with this revision.
    pub fn picture(&self, id: &str, revision: i64) -> Result<Option<String>, StoreError> {
        let ask = "SELECT svg FROM pictures WHERE job = ?1 AND revision = ?2";
        self.read(|db| {
            Ok(db.prepare_cached(ask)?.query_row(params![id, revision], |r| r.get(0)).optional()?)
        })
    }

    /// Keeps a file under its digest; one that is kept already stays as it is.
    pub fn keep_file(&self, digest: &str, kind: &str, bytes: &[u8]) -> Result<(), StoreError> {
        self.write(|tx| {
            tx.execute(
                "INSERT OR IGNORE INTO files (digest, kind, kept_at, bytes) VALUES (?1, ?2, ?3, ?4)",
                params![digest, kind, now(), bytes],
            )?;
            Ok(())
        })
    }

    /// A kept file: its kind and what it holds.
    pub fn file(&self, digest: &str) -> Result<Option<(String, Vec<u8>)>, StoreError> {
        let ask = "SELECT kind, bytes FROM files WHERE digest = ?1";
        self.read(|db| {
            let row = |r: &rusqlite::Row| Ok((r.get(0)?, r.get(1)?));
            Ok(db.prepare_cached(ask)?.query_row([digest], row).optional()?)
        })
    }

    /// Files a picture of a revision that had none.
    pub fn keep_picture(&self, id: &str, revision: i64, svg: &str) -> Result<(), StoreError> {
        self.write(|tx| insert_picture(tx, id, revision, svg))
    }
}

/// Whether a data base can be written to without making its damage worse.
fn check(path: &Path, found: &Found) -> Result<(), StoreError> {
    if *found == Found::Nothing {
        return Ok(());
    }
    let db = identify::open_to_read(path)?;
    let sound: String = db.query_row("PRAGMA quick_check(1)", [], |r| r.get(0))?;
    if sound == "ok" { Ok(()) } else { Err(StoreError::Damaged(sound)) }
}

fn writer(path: &Path) -> Result<Connection, StoreError> {
    let mut db = Connection::open(path)?;
    db.busy_timeout(PATIENCE)?;
    db.pragma_update(None, "journal_mode", "WAL")?;
    db.pragma_update(None, "synchronous", "FULL")?;
    db.pragma_update(None, "foreign_keys", "ON")?;
    schema::migrations().to_latest(&mut db)?;
    Ok(db)
}

fn reader(path: &Path) -> Result<Connection, StoreError> {
    let db = Connection::open_with_flags(
        path,
        OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX,
    )?;
    db.busy_timeout(PATIENCE)?;
    Ok(db)
}

/// SQLite counts in 63 bits.
fn small(n: usize) -> i64 {
    i64::try_from(n).unwrap_or(i64::MAX)
}

fn head(db: &Connection, id: &str) -> Result<Head, StoreError> {
    let ask = "SELECT j.head, r.token, j.archived FROM jobs j JOIN revisions r ON r.job = j.id AND \
        r.revision = j.head WHERE j.id = ?1";
    let row = |r: &rusqlite::Row| Ok(Head { revision: r.get(0)?, token: r.get(1)?, archived: r.get(2)? });
    db.prepare_cached(ask)?.query_row([id], row).optional()?.ok_or_else(|| StoreError::NoJob(id.into()))
}

fn job_row(r: &rusqlite::Row) -> rusqlite::Result<JobRow> {
    Ok(JobRow {
        id: r.get(0)?,
        title: r.get(1)?,
        number: r.get(2)?,
        revision: r.get(3)?,
        saved_at: r.get(4)?,
        archived: r.get(5)?,
        summary: r.get(6)?,
    })
}

fn insert_revision(tx: &rusqlite::Transaction, id: &str, revision: i64, s: &Save) -> Result<(), StoreError> {
    tx.execute(
        "INSERT INTO revisions (job, revision, saved_at, title, number, note, document, summary, token) \
            VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9)",
        params![id, revision, now(), s.title, s.number, s.note, s.document, s.summary, s.token],
    )?;
    if s.picture.is_empty() { Ok(()) } else { insert_picture(tx, id, revision, s.picture) }
}

fn insert_picture(tx: &rusqlite::Transaction, id: &str, revision: i64, svg: &str) -> Result<(), StoreError> {
    tx.execute(
        "INSERT OR REPLACE INTO pictures (job, revision, svg) VALUES (?1, ?2, ?3)",
        params![id, revision, svg],
    )?;
    Ok(())
}
