//! Saves, refusals, archives, and what becomes of a save whose answer never came.

use steelk_store::{Head, Save, Store, StoreError};

fn save(document: &str) -> Save<'_> {
    Save { title: "Line", number: "J-1", document, summary: "{}", ..Save::default() }
}

fn fresh() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("data/steelk.db")).unwrap();
    (folder, store)
}

#[test]
fn every_save_is_a_revision_and_all_stay() {
    let (_f, s) = fresh();
    s.create("a", &save("one")).unwrap();
    for (i, d) in ["two", "three"].iter().enumerate() {
        assert_eq!(s.save("a", i as i64 + 1, &save(d)).unwrap().revision, i as i64 + 2);
    }
    let (row, document) = s.job("a").unwrap();
    assert_eq!((row.revision, document.as_str()), (3, "three"));
    assert_eq!(s.revision("a", 1).unwrap(), "one");
    let (rows, total) = s.revisions("a", 1, 1).unwrap();
    assert_eq!((rows[0].revision, total), (2, 3));
    assert!(
        s.revisions("a", usize::MAX, usize::MAX).unwrap().0.is_empty(),
        "past the end is past the end, not the beginning"
    );
}

#[test]
fn a_stale_save_is_refused_and_changes_nothing() {
    let (_f, s) = fresh();
    s.create("a", &save("one")).unwrap();
    s.save("a", 1, &save("two")).unwrap();
    let refused = s.save("a", 1, &save("lost?")).unwrap_err();
    assert!(matches!(refused, StoreError::Stale { based_on: 1, current: 2 }));
    assert_eq!(s.job("a").unwrap().1, "two");
    assert!(matches!(s.save("b", 1, &save("x")), Err(StoreError::NoJob(_))));
    assert!(matches!(s.revision("a", 9), Err(StoreError::NoRevision(9))));
}

/// The same save sent again is filed once; the next may stand on it although its number was never heard.
#[test]
fn a_save_whose_answer_never_came_is_neither_doubled_nor_in_the_way() {
    let (_f, s) = fresh();
    s.create("a", &save("one")).unwrap();
    let first = Save { token: "t1", ..save("two") };
    assert_eq!(s.save("a", 1, &first).unwrap().revision, 2);
    assert_eq!(s.save("a", 1, &first).unwrap(), Head { revision: 2, token: "t1".into(), archived: false });
    assert_eq!(s.revisions("a", 0, 9).unwrap().1, 2);
    assert!(matches!(
        s.save("a", 1, &Save { token: "t2", after: &["t0".into()], ..save("x") }),
        Err(StoreError::Stale { current: 2, .. })
    ));
    assert_eq!(
        s.save("a", 1, &Save { token: "t2", after: &["t0".into(), "t1".into()], ..save("three") })
            .unwrap()
            .revision,
        3
    );
    // Saves without a token never pass for one another.
    s.save("a", 3, &save("four")).unwrap();
    assert!(matches!(s.save("a", 3, &save("five")), Err(StoreError::Stale { current: 4, .. })));
    assert_eq!(s.job("a").unwrap().1, "four");
}

#[test]
fn archived_jobs_come_back_and_a_save_says_that_it_went_into_the_archive() {
    let (_f, s) = fresh();
    s.create("a", &save("one")).unwrap();
    s.archive("a", true).unwrap();
    assert_eq!(s.jobs(false, 0, 10).unwrap().1, 0);
    assert_eq!(s.jobs(true, 0, 10).unwrap().0[0].id, "a");
    assert!(s.save("a", 1, &save("two")).unwrap().archived);
    s.archive("a", false).unwrap();
    assert_eq!(s.jobs(false, 0, 10).unwrap().1, 1);
    assert!(!s.head("a").unwrap().archived);
    assert!(matches!(s.archive("b", true), Err(StoreError::NoJob(_))));
}

#[test]
fn revisions_cannot_be_removed_or_changed() {
    let (f, s) = fresh();
    s.create("a", &save("one")).unwrap();
    let db = rusqlite::Connection::open(f.path().join("data/steelk.db")).unwrap();
    assert!(db.execute("DELETE FROM revisions", []).is_err());
    assert!(db.execute("UPDATE revisions SET document = 'x'", []).is_err());
}

#[test]
fn the_ticket_has_the_picture_of_its_revision_or_none() {
    let (_f, s) = fresh();
    s.create("a", &Save { picture: "<svg/>", ..save("one") }).unwrap();
    assert_eq!(s.picture("a", 1).unwrap().as_deref(), Some("<svg/>"));
    s.save("a", 1, &save("two")).unwrap();
    assert_eq!(s.picture("a", 2).unwrap(), None);
    s.keep_picture("a", 2, "<svg>2</svg>").unwrap();
    assert_eq!(s.picture("a", 2).unwrap().as_deref(), Some("<svg>2</svg>"));
}

#[test]
fn readers_go_on_while_another_program_writes_and_a_save_waits_only_briefly() {
    let (f, s) = fresh();
    s.create("a", &save("one")).unwrap();
    let mut other = rusqlite::Connection::open(f.path().join("data/steelk.db")).unwrap();
    let lock = other.transaction_with_behavior(rusqlite::TransactionBehavior::Exclusive).unwrap();
    let begun = std::time::Instant::now();
    assert!(matches!(s.save("a", 1, &save("two")), Err(StoreError::Busy)));
    assert!(begun.elapsed().as_secs() < 10);
    assert_eq!(s.job("a").unwrap().1, "one");
    assert_eq!(s.jobs(false, 0, 9).unwrap().1, 1);
    drop(lock);
    assert_eq!(s.save("a", 1, &save("two")).unwrap().revision, 2);
}

/// Two servers on one data base: each sees the other's saves, and no save passes over another.
#[test]
fn two_stores_on_one_file_lose_nothing() {
    let (f, a) = fresh();
    a.create("a", &save("one")).unwrap();
    let b = Store::open(&f.path().join("data/steelk.db")).unwrap();
    let mut stale = 0;
    for n in 1..=20 {
        let s = if n % 2 == 0 { &a } else { &b };
        assert_eq!(s.save("a", n, &save("x")).unwrap().revision, n + 1);
        stale += usize::from(a.save("a", n, &save("y")).is_err());
    }
    assert_eq!((stale, a.head("a").unwrap().revision), (20, 21));
}
