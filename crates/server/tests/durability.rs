//! `kill -9` in the middle of saves loses no save that was acknowledged; the command line does what it says.

mod common;

use std::sync::Arc;
use std::sync::atomic::{AtomicI64, Ordering};

use common::*;
use serde_json::json;

#[test]
fn no_acknowledged_save_is_lost() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("s.db");
    let mut s = start("serve", &data);
    let id = s.post("/api/jobs", &strip_job("40")).1["id"].as_str().unwrap().to_string();
    let path = format!("/api/jobs/{id}");
    let mut known = 1;
    // A thousand saves, the server killed without warning five times on the way.
    for round in 1..=5 {
        let acknowledged = Arc::new(AtomicI64::new(known));
        let goal = 1 + 200 * round;
        let saver = {
            let (agent, url, acknowledged) = (s.agent.clone(), s.url(&path), acknowledged.clone());
            std::thread::spawn(move || {
                for n in known..1 + 1000 {
                    let leg = format!("{}", 40 + n);
                    match agent
                        .put(&url)
                        .header("If-Match", format!("\"{n}\""))
                        .send_json(json!({ "job": strip_job(&leg) }))
                    {
                        Ok(r) if r.status().as_u16() == 200 => acknowledged.store(n + 1, Ordering::SeqCst),
                        _ => return,
                    }
                }
            })
        };
        while acknowledged.load(Ordering::SeqCst) < goal.min(1000) && !saver.is_finished() {
            std::thread::sleep(std::time::Duration::from_millis(1));
        }
        s.child.kill().unwrap(); // SIGKILL
        s.child.wait().unwrap();
        saver.join().unwrap();
        let told = acknowledged.load(Ordering::SeqCst);
        s = start("serve", &data);
        let opened = s.get(&path).1;
        let found = opened["revision"].as_i64().unwrap();
        // The save in flight may have reached the disk without its answer; nothing acknowledged may be
        // missing.
        assert!(found == told || found == told + 1, "acknowledged {told}, found {found}");
        assert_eq!(
            opened["job"]["pieces"][0]["lines"][0]["say"]["profile"][0]["length"],
            format!("{}", 40 + found - 1)
        );
        assert_eq!(s.get(&format!("{path}/revisions?limit=1")).1["total"].as_i64(), Some(found));
        known = found;
    }
    assert!(known >= 1000, "{known}");
}

#[test]
fn the_command_line_tells_by_its_exit_code() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name).to_str().unwrap().to_string();
    let write = |name: &str, text: &str| {
        std::fs::write(at(name), text).unwrap();
        at(name)
    };
    let good = write("good.steelk.json", &strip_job("40").to_string());
    let (code, out, _) = steelk(&["evaluate", &good]);
    assert!(code == 0 && out.contains("96.2 mm"), "{out}");
    let (code, out, _) = steelk(&["--json", "evaluate", &good]);
    let json: serde_json::Value = serde_json::from_str(&out).unwrap();
    assert!(code == 0 && json["pieces"][0]["made"] == true);
    let stop = write("stop.steelk.json", &strip_job("2").to_string());
    let (code, out, _) = steelk(&["check", &stop]);
    assert!(code == 1 && out.contains("too short for its bends"), "{out}");
    let (code, _, err) = steelk(&["check", &write("bad.json", "{\"format\": 1}")]);
    assert!(code == 2 && err.contains("title"), "{err}");
    let dxf = at("o.dxf");
    assert_eq!(steelk(&["export", &good, "--part", "P-1", "--as", "dxf", "-o", &dxf]).0, 0);
    assert!(std::fs::read_to_string(&dxf).unwrap().contains("BEND_UP"));
    assert_eq!(steelk(&["export", &good, "--part", "P-9", "--as", "dxf"]).0, 2);
    let (code, _, err) = steelk(&["serve", "--bind", "0.0.0.0", "--data", &at("x.db")]);
    assert!(code == 2 && err.contains("access key"), "{err}");
}

#[test]
fn backups_are_made_while_the_server_runs() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("s.db");
    let at = |name: &str| folder.path().join(name).to_str().unwrap().to_string();
    let s = start("demo", &data);
    assert_eq!(steelk(&["backup", "--data", &at("s.db"), &at("copy.db")]).0, 0);
    s.post("/api/jobs", &strip_job("40"));
    assert_eq!(s.get("/api/jobs").1["total"], 2);
    let (code, _, err) = steelk(&["restore", "--data", &at("s.db"), &at("copy.db")]);
    assert!(code == 2 && err.contains("in use by a server"), "{err}");
    drop(s);
    assert_eq!(
        steelk(&["backup", "--data", &at("none.db"), &at("other.db")]).0,
        2,
        "a backup of nothing is none"
    );
    let (code, _, err) = steelk(&["restore", "--data", &at("s.db"), &at("copy.db")]);
    assert!(code == 0 && err.contains("kept as"), "{err}");
    let s = start("serve", &data);
    assert_eq!(s.get("/api/jobs").1["total"], 1);
}

/// Several servers share the work: the same draft gives the same bytes on each, and servers on one data base
/// see each other's saves.
#[test]
fn a_holder_and_a_worker_answer_alike() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("s.db");
    let holder = start("demo", &data);
    let worker = start("serve", &folder.path().join("worker.db"));
    let id = holder.get("/api/jobs").1["jobs"][0]["id"].as_str().unwrap().to_string();
    let job = holder.get(&format!("/api/jobs/{id}")).1["job"].clone();
    for piece in ["stand", "drum"] {
        let ask = |s: &Server| {
            let mut r = s
                .agent
                .post(s.url("/api/evaluate"))
                .send_json(json!({ "job": job, "piece": piece }))
                .unwrap();
            r.body_mut().read_to_vec().unwrap()
        };
        let (a, b) = (ask(&holder), ask(&worker));
        assert!(a.len() > 5_000 && a == b, "{piece}: {} and {} bytes", a.len(), b.len());
    }
    assert_eq!(worker.get("/api/jobs").1["total"], 0, "a worker holds no job");
    let second = start("serve", &data);
    let (status, saved) =
        second.put(&format!("/api/jobs/{id}"), 1, &json!({ "job": strip_job("77"), "token": "a" })).unwrap();
    assert_eq!((status, saved["revision"].as_i64()), (200, Some(2)));
    assert_eq!(holder.get(&format!("/api/jobs/{id}")).1["revision"], 2);
    assert_eq!(holder.put(&format!("/api/jobs/{id}"), 1, &json!({ "job": strip_job("78") })).unwrap().0, 409);
    // The same save sent again is filed once, and its head tells by its token that it arrived.
    assert_eq!(
        holder
            .put(&format!("/api/jobs/{id}"), 1, &json!({ "job": strip_job("77"), "token": "a" }))
            .unwrap()
            .1["revision"],
        2
    );
    assert_eq!(
        holder.get(&format!("/api/jobs/{id}/head")).1,
        json!({ "revision": 2, "token": "a", "archived": false })
    );
}

/// What cannot be made is said by the exit code of every list and file, in words, and in JSON where that is
/// asked for.
#[test]
fn lists_and_checks_say_what_stopped() {
    let folder = tempfile::tempdir().unwrap();
    let write = |name: &str, job: &serde_json::Value| {
        let at = folder.path().join(name);
        std::fs::write(&at, job.to_string()).unwrap();
        at.to_str().unwrap().to_string()
    };
    let mut job = strip_job("40");
    job["figures"] = json!([{ "name": "a", "value": "1/0" }]);
    let (code, out, _) = steelk(&["check", &write("figure.json", &job)]);
    assert!(code == 1 && out.contains("figure a"), "{out}");
    let stop = write("stop.json", &strip_job("2"));
    for kind in ["cutlist", "spreadsheet", "dxf"] {
        let out = folder.path().join("out");
        let (code, _, err) =
            steelk(&["export", &stop, "--part", "P-1", "--as", kind, "-o", out.to_str().unwrap()]);
        assert!(code == 1 && err.contains("P-1 cannot be made"), "{kind}: {err}");
    }
    let (code, out, _) = steelk(&["--json", "export"]);
    assert!(
        code == 2 && serde_json::from_str::<serde_json::Value>(&out).unwrap()["error"].is_string(),
        "{out}"
    );
    let good = folder.path().join("bom.json");
    std::fs::write(&good, [b"\xef\xbb\xbf".to_vec(), strip_job("40").to_string().into_bytes()].concat())
        .unwrap();
    assert_eq!(steelk(&["check", good.to_str().unwrap()]).0, 0, "a byte-order mark is no fault");
    // The same job gives the same bytes.
    for kind in ["dxf", "spreadsheet", "template"] {
        let made: Vec<Vec<u8>> = (0..2)
            .map(|n| {
                let out = folder.path().join(format!("{n}"));
                assert_eq!(
                    steelk(&[
                        "export",
                        good.to_str().unwrap(),
                        "--part",
                        "P-1",
                        "--as",
                        kind,
                        "-o",
                        out.to_str().unwrap()
                    ])
                    .0,
                    0
                );
                std::thread::sleep(std::time::Duration::from_millis(1100));
                std::fs::read(out).unwrap()
            })
            .collect();
        assert!(made[0] == made[1], "{kind} differs between two runs");
    }
}
