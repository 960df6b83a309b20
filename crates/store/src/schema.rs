//! The tables, step by step. A step that has shipped is never changed; a new one is added below it.

use rusqlite_migration::{M, Migrations};

/// `Stlk`, in every data base of Steelk since its second schema.
pub const APPLICATION_ID: i64 = 0x5374_6c6b;

/// The newest schema that this Steelk knows.
pub const VERSION: i64 = 3;

pub fn migrations() -> Migrations<'static> {
    Migrations::new(vec![
        M::up(
            "CREATE TABLE jobs (id TEXT PRIMARY KEY NOT NULL, head INTEGER NOT NULL, archived INTEGER NOT \
                NULL DEFAULT 0);
         CREATE TABLE revisions (
             job TEXT NOT NULL REFERENCES jobs(id),
             revision INTEGER NOT NULL,
             saved_at INTEGER NOT NULL,
             title TEXT NOT NULL,
             number TEXT NOT NULL,
             note TEXT NOT NULL,
             document TEXT NOT NULL,
             summary TEXT NOT NULL,
             PRIMARY KEY (job, revision)
         ) WITHOUT ROWID;
         CREATE TRIGGER revisions_stay BEFORE DELETE ON revisions BEGIN SELECT RAISE(ABORT, 'revisions are \
         never removed'); END;
         CREATE TRIGGER revisions_hold BEFORE UPDATE ON revisions BEGIN SELECT RAISE(ABORT, 'revisions are \
         never changed'); END;",
        ),
        // The token tells a page whether a save reached the disk whose answer never came. Pictures can be
        // made again from the documents.
        M::up(
            "ALTER TABLE revisions ADD COLUMN token TEXT NOT NULL DEFAULT '';
         CREATE TABLE pictures (job TEXT PRIMARY KEY NOT NULL, revision INTEGER NOT NULL, svg TEXT NOT NULL);
         PRAGMA application_id = 1400138859;",
        ),
        // Drawings and photographs, by what they hold: the same file is kept once, whoever names it.
        M::up(
            "CREATE TABLE files (digest TEXT PRIMARY KEY NOT NULL, kind TEXT NOT NULL, kept_at INTEGER NOT \
                NULL, bytes BLOB NOT NULL);
         CREATE TRIGGER files_stay BEFORE DELETE ON files BEGIN SELECT RAISE(ABORT, 'files are never \
         removed'); END;
         CREATE TRIGGER files_hold BEFORE UPDATE ON files BEGIN SELECT RAISE(ABORT, 'files are never \
         changed'); END;",
        ),
    ])
}
