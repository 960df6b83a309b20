//! Steelk's store: jobs as documents, every save a new row, nothing ever overwritten.

mod schema;

use std::path::{Path, PathBuf};
use std::time::{Duration, SystemTime, UNIX_EPOCH};

use rusqlite::{Connection, OptionalExtension, params};
use serde::{Deserialize, Serialize};

#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    #[error("no job has the id '{0}'")]
    NoJob(String),
    #[error("the job has no revision {0}")]
    NoRevision(i64),
    /// Somebody saved in between.
    #[error("the job was saved as revision {current} since revision {based_on} was read")]
    Stale { based_on: i64, current: i64 },
    #[error("the data base: {0}")]
    Sql(#[from] rusqlite::Error),
    #[error("the data base is not one this Steelk can open: {0}")]
    Schema(#[from] rusqlite_migration::Error),
    #[error("{path}: {why}")]
    File { path: PathBuf, why: String },
}

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
#[derive(Clone, Debug, Default)]
pub struct Save<'a> {
    pub title: &'a str,
    pub number: &'a str,
    pub note: &'a str,
    pub document: &'a str,
    pub summary: &'a str,
}

pub struct Store {
    db: Connection,
}

fn now() -> i64 {
    SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |d| d.as_secs() as i64)
}

impl Store {
    /// Opens or makes the data base: write-ahead log, every commit on the disk before it is acknowledged.
    pub fn open(path: &Path) -> Result<Store, StoreError> {
        if let Some(folder) = path.parent() {
            std::fs::create_dir_all(folder).map_err(|e| StoreError::File { path: folder.into(), why: e.to_string() })?;
        }
        let mut db = Connection::open(path)?;
        db.busy_timeout(Duration::from_secs(10))?;
        db.pragma_update(None, "journal_mode", "WAL")?;
        db.pragma_update(None, "synchronous", "FULL")?;
        db.pragma_update(None, "foreign_keys", "ON")?;
        schema::migrations().to_latest(&mut db)?;
        Ok(Store { db })
    }

    /// A page of the rack, the last saved first, and how many there are in all.
    pub fn jobs(&self, archived: bool, offset: usize, limit: usize) -> Result<(Vec<JobRow>, usize), StoreError> {
        let total: i64 = self.db.query_row("SELECT count(*) FROM jobs WHERE archived = ?1", [archived], |r| r.get(0))?;
        let mut ask = self.db.prepare(
            "SELECT j.id, r.title, r.number, r.revision, r.saved_at, j.archived, r.summary FROM jobs j \
             JOIN revisions r ON r.job = j.id AND r.revision = j.head WHERE j.archived = ?1 ORDER BY r.saved_at DESC, j.rowid DESC LIMIT ?2 OFFSET ?3",
        )?;
        let rows = ask.query_map(params![archived, limit as i64, offset as i64], job_row)?.collect::<Result<_, _>>()?;
        Ok((rows, total as usize))
    }

    /// The newest document of a job.
    pub fn job(&self, id: &str) -> Result<(JobRow, String), StoreError> {
        self.db
            .query_row(
                "SELECT j.id, r.title, r.number, r.revision, r.saved_at, j.archived, r.summary, r.document FROM jobs j \
                 JOIN revisions r ON r.job = j.id AND r.revision = j.head WHERE j.id = ?1",
                [id],
                |r| Ok((job_row(r)?, r.get(7)?)),
            )
            .optional()?
            .ok_or_else(|| StoreError::NoJob(id.into()))
    }

    pub fn create(&mut self, id: &str, save: &Save) -> Result<i64, StoreError> {
        let tx = self.db.transaction()?;
        tx.execute("INSERT INTO jobs (id, head, archived) VALUES (?1, 1, 0)", [id])?;
        insert_revision(&tx, id, 1, save)?;
        tx.commit()?;
        Ok(1)
    }

    /// A new revision on top of `based_on`, or the refusal that names the newer one.
    pub fn save(&mut self, id: &str, based_on: i64, save: &Save) -> Result<i64, StoreError> {
        let tx = self.db.transaction_with_behavior(rusqlite::TransactionBehavior::Immediate)?;
        let head: i64 = tx.query_row("SELECT head FROM jobs WHERE id = ?1", [id], |r| r.get(0)).optional()?.ok_or_else(|| StoreError::NoJob(id.into()))?;
        if head != based_on {
            return Err(StoreError::Stale { based_on, current: head });
        }
        insert_revision(&tx, id, head + 1, save)?;
        tx.execute("UPDATE jobs SET head = ?2 WHERE id = ?1", params![id, head + 1])?;
        tx.commit()?;
        Ok(head + 1)
    }

    /// Takes a job off the rack, or puts it back. Nothing is removed.
    pub fn archive(&mut self, id: &str, archived: bool) -> Result<(), StoreError> {
        match self.db.execute("UPDATE jobs SET archived = ?2 WHERE id = ?1", params![id, archived])? {
            0 => Err(StoreError::NoJob(id.into())),
            _ => Ok(()),
        }
    }

    /// A page of a job's revisions, the newest first, and how many there are in all.
    pub fn revisions(&self, id: &str, offset: usize, limit: usize) -> Result<(Vec<RevisionRow>, usize), StoreError> {
        let total: i64 = self.db.query_row("SELECT count(*) FROM revisions WHERE job = ?1", [id], |r| r.get(0))?;
        if total == 0 {
            return Err(StoreError::NoJob(id.into()));
        }
        let mut ask = self.db.prepare("SELECT revision, saved_at, note, summary FROM revisions WHERE job = ?1 ORDER BY revision DESC LIMIT ?2 OFFSET ?3")?;
        let row = |r: &rusqlite::Row| Ok(RevisionRow { revision: r.get(0)?, saved_at: r.get(1)?, note: r.get(2)?, summary: r.get(3)? });
        let rows = ask.query_map(params![id, limit as i64, offset as i64], row)?.collect::<Result<_, _>>()?;
        Ok((rows, total as usize))
    }

    /// The document as it stood at a revision.
    pub fn revision(&self, id: &str, revision: i64) -> Result<String, StoreError> {
        self.db
            .query_row("SELECT document FROM revisions WHERE job = ?1 AND revision = ?2", params![id, revision], |r| r.get(0))
            .optional()?
            .ok_or(StoreError::NoRevision(revision))
    }

    /// A whole, consistent copy of the data base while it is in use.
    pub fn backup(&self, to: &Path) -> Result<(), StoreError> {
        if to.exists() {
            return Err(StoreError::File { path: to.into(), why: "already exists; name a new file".into() });
        }
        let text = to.to_str().ok_or_else(|| StoreError::File { path: to.into(), why: "the name is not text".into() })?;
        self.db.execute("VACUUM INTO ?1", [text])?;
        Ok(())
    }
}

/// Puts a backup in the place of the data base at `path`; what stood there is kept beside it, and its name returned.
pub fn restore(from: &Path, path: &Path) -> Result<Option<PathBuf>, StoreError> {
    let file = |path: &Path| {
        let path = path.to_path_buf();
        move |e: std::io::Error| StoreError::File { path: path.clone(), why: e.to_string() }
    };
    std::fs::metadata(from).map_err(file(from))?;
    // Only a sound Steelk data base may take the place.
    let check = Connection::open_with_flags(from, rusqlite::OpenFlags::SQLITE_OPEN_READ_ONLY)?;
    let sound: String = check.query_row("PRAGMA integrity_check", [], |r| r.get(0))?;
    check.query_row("SELECT count(*) FROM revisions", [], |r| r.get::<_, i64>(0))?;
    if sound != "ok" {
        return Err(StoreError::File { path: from.into(), why: format!("damaged: {sound}") });
    }
    drop(check);
    let mut kept = None;
    if path.exists() {
        // Fold the write-ahead log in, so that one file is the whole.
        let old = Connection::open(path)?;
        old.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |_| Ok(()))?;
        drop(old);
        let aside = path.with_extension(format!("before-restore-{}.db", now()));
        std::fs::rename(path, &aside).map_err(file(path))?;
        for tail in ["-wal", "-shm"] {
            let mut name = path.as_os_str().to_owned();
            name.push(tail);
            std::fs::remove_file(PathBuf::from(name)).ok();
        }
        kept = Some(aside);
    }
    std::fs::copy(from, path).map_err(file(from))?;
    Ok(kept)
}

fn job_row(r: &rusqlite::Row) -> rusqlite::Result<JobRow> {
    Ok(JobRow { id: r.get(0)?, title: r.get(1)?, number: r.get(2)?, revision: r.get(3)?, saved_at: r.get(4)?, archived: r.get(5)?, summary: r.get(6)? })
}

fn insert_revision(tx: &rusqlite::Transaction, id: &str, revision: i64, s: &Save) -> rusqlite::Result<usize> {
    tx.execute(
        "INSERT INTO revisions (job, revision, saved_at, title, number, note, document, summary) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8)",
        params![id, revision, now(), s.title, s.number, s.note, s.document, s.summary],
    )
}
