//! The server under fire: floods, hang-ups, stops, stalled bodies, and what it says when it cannot.

mod common;

use std::io::{Read, Write};
use std::net::{TcpListener, TcpStream};
use std::sync::{PoisonError, RwLock, RwLockReadGuard, RwLockWriteGuard};
use std::time::{Duration, Instant};

use common::*;
use serde_json::{Value, json};

/// A rolled sheet with so many round holes in staggered rows.
fn holes(n: usize, salt: usize) -> Value {
    let (columns, rows) = (100, n / 100);
    json!({ "format": 1, "title": format!("holes {salt}"), "pieces": [{ "id": "a", "mark": "P-1",
        "name": "drum", "quantity": "1", "material": "s235", "thickness": "1", "lines": [
        { "id": "start-1", "say": { "verb": "start_plate", "width": format!("{}", columns * 12 + 40 + salt),
            "height": format!("{}", rows * 24 + 60) } },
        { "id": "punch-1", "say": { "verb": "punch", "shape": { "kind": "round", "diameter": "5" },
            "place": { "x": { "from": "west", "distance": "12" }, "y": { "from": "south",
                "distance": "12" } } } },
        { "id": "punch-2", "say": { "verb": "punch", "shape": { "kind": "round", "diameter": "5" },
            "place": { "x": { "from": "west", "distance": "18" }, "y": { "from": "south",
                "distance": "24" } } } },
        { "id": "repeat-1", "say": { "verb": "repeat", "of": ["punch-1", "punch-2"], "axis": "east",
            "spacing": { "by": "pitch", "count": format!("{columns}"), "pitch": "12" },
            "across": { "by": "pitch", "count": format!("{}", rows / 2), "pitch": "24" } } }] }] })
}

/// Tests that watch the clock run alone; the others beside one another. (Two floods at once on two processors
/// once made a small answer 2.1 s late.)
static CLOCK: RwLock<()> = RwLock::new(());

fn alone() -> RwLockWriteGuard<'static, ()> {
    CLOCK.write().unwrap_or_else(PoisonError::into_inner)
}

fn beside() -> RwLockReadGuard<'static, ()> {
    CLOCK.read().unwrap_or_else(PoisonError::into_inner)
}

/// Kilobytes of memory that the process has held at the most.
#[cfg(target_os = "linux")]
fn peak(s: &Server) -> u64 {
    let text = std::fs::read_to_string(format!("/proc/{}/status", s.child.id())).unwrap();
    text.lines()
        .find_map(|l| l.strip_prefix("VmHWM:"))
        .unwrap()
        .trim()
        .trim_end_matches(" kB")
        .parse()
        .unwrap()
}

/// Small requests are answered while heavy ones queue, and the memory stays bounded. `make siege` does it at
/// full size.
#[test]
fn small_requests_pass_large_ones() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let flood: Vec<_> = (0..16)
        .map(|salt| {
            let (agent, url, body) =
                (s.agent.clone(), s.url("/api/evaluate"), json!({ "job": holes(4000, salt), "piece": "a" }));
            std::thread::spawn(move || agent.post(&url).send_json(&body).map_or(0, |r| r.status().as_u16()))
        })
        .collect();
    std::thread::sleep(Duration::from_millis(200));
    // What is large and done. A small one that waited for its turn among the large would see many of them
    // end, on a machine of any speed.
    let done = || flood.iter().filter(|f| f.is_finished()).count();
    let (mut took, mut passed_by, mut asked) = (Vec::new(), 0, 0);
    let begun_all = Instant::now();
    while done() < flood.len() {
        let (begun, before) = (Instant::now(), done());
        assert_eq!(
            s.post("/api/evaluate", &json!({ "job": strip_job(&format!("{}", 40 + asked)), "piece": "a" })).0,
            200
        );
        took.push(begun.elapsed());
        passed_by = passed_by.max(done() - before);
        asked += 1;
        std::thread::sleep(Duration::from_millis(30));
    }
    let all: Vec<u16> = flood.into_iter().map(|f| f.join().unwrap()).collect();
    assert!(all.iter().all(|c| *c == 200 || *c == 503), "{all:?}");
    assert!(asked > 3, "the flood was over too soon to tell: {asked}");
    assert!(passed_by <= 3, "{passed_by} large ones ended while a small one waited: {took:?}");
    took.sort();
    let (usual, slowest, whole) = (took[took.len() / 2], took[took.len() - 1], begun_all.elapsed());
    assert!(slowest < whole / 2, "{slowest:?} of the flood's {whole:?}");
    // Twenty times what a release build needs on an idle machine.
    assert!(usual < Duration::from_millis(200), "{usual:?}");
    #[cfg(target_os = "linux")]
    assert!(peak(&s) < 1_500_000, "{} kB", peak(&s));
}

/// A picture of a piece whose figures are known looks small and is not. Whoever waits for it, and whoever
/// waits for the same one, waits among the large: the small lane stays open. (Once, two that wanted one
/// picture shut it for twenty seconds.)
#[test]
fn who_waits_for_a_picture_does_not_shut_the_small_lane() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let send = |job: Value, geometry: bool| {
        let (agent, url) = (s.agent.clone(), s.url("/api/evaluate"));
        std::thread::spawn(move || {
            agent
                .post(&url)
                .send_json(json!({ "job": job, "piece": "a", "geometry": geometry }))
                .map_or(0, |r| r.status().as_u16())
        })
    };
    assert_eq!(send(holes(8_000, 1), false).join().unwrap(), 200);
    let large: Vec<_> = (0..3).map(|salt| send(holes(20_000, 10 + salt), true)).collect();
    std::thread::sleep(Duration::from_millis(300));
    let same: Vec<_> = (0..4).map(|_| send(holes(8_000, 1), true)).collect();
    std::thread::sleep(Duration::from_millis(400));
    assert!(large.iter().any(|l| !l.is_finished()), "the large ones were over too soon to tell");
    let begun = Instant::now();
    assert_eq!(s.post("/api/evaluate", &json!({ "job": strip_job("41"), "piece": "a" })).0, 200);
    assert!(begun.elapsed() < Duration::from_secs(1), "{:?}", begun.elapsed());
    assert!(large.into_iter().chain(same).all(|l| l.join().unwrap() == 200));
}

/// A client that is gone, or asks anew, does not keep the server at work.
#[test]
fn who_hangs_up_or_asks_anew_ends_what_ran() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    // The piece that takes longest of what a test can wait for: it is asked for whole at the end.
    let heavy = |salt: usize| json!({ "job": holes(20_000, salt), "piece": "a" }).to_string();
    let send = |body: &str, page: &str| {
        let mut c = TcpStream::connect(("127.0.0.1", s.port)).unwrap();
        write!(
            c,
            "POST /api/evaluate HTTP/1.1\r\nHost: 127.0.0.1:{}\r\nContent-Type: \
                application/json\r\nX-Steelk-Page: {page}\r\nContent-Length: {}\r\n\r\n{body}",
            s.port,
            body.len()
        )
        .unwrap();
        c
    };
    // Twelve that hang up: without an end to their work the next would wait for all of them.
    for salt in 0..12 {
        let c = send(&heavy(salt), "");
        std::thread::sleep(Duration::from_millis(100));
        drop(c);
    }
    let begun = Instant::now();
    assert_eq!(s.post("/api/evaluate", &json!({ "job": holes(2000, 99), "piece": "a" })).0, 200);
    let after_leavers = begun.elapsed();
    // A page that types: every draft but the last is given up.
    let mut older = send(&heavy(50), "page-1");
    std::thread::sleep(Duration::from_millis(300));
    let begun = Instant::now();
    let newest = s
        .agent
        .post(s.url("/api/evaluate"))
        .header("X-Steelk-Page", "page-1")
        .send_json(json!({ "job": holes(400, 98), "piece": "a" }))
        .unwrap();
    assert_eq!(newest.status().as_u16(), 200);
    let mut text = [0; 12];
    older.read_exact(&mut text).unwrap();
    assert_eq!(&text, b"HTTP/1.1 409", "the older draft is told that it was replaced");
    let begun_whole = begun.elapsed();
    let begun = Instant::now();
    assert_eq!(s.post("/api/evaluate", &serde_json::from_str::<Value>(&heavy(51)).unwrap()).0, 200);
    let whole = begun.elapsed();
    assert!(after_leavers < whole * 4, "{after_leavers:?} after twelve that hung up, {whole:?} for one");
    assert!(begun_whole < whole * 3, "{begun_whole:?}, {whole:?}");
}

/// Nobody computes for a client that is gone: the server's processor time stands still within a fifth of a
/// second, whenever it goes.
#[cfg(target_os = "linux")]
#[test]
fn the_server_rests_once_its_client_has_hung_up() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    // Hundredths of a second that the server has run, from the kernel.
    let run = || {
        let stat = std::fs::read_to_string(format!("/proc/{}/stat", s.child.id())).unwrap();
        // After the name comes the third field; time for itself and in the kernel are the 14th and 15th.
        let fields: Vec<&str> = stat.rsplit(')').next().unwrap().split_whitespace().collect();
        [11, 12].map(|i: usize| fields[i].parse::<u64>().unwrap()).iter().sum::<u64>()
    };
    let body = json!({ "job": holes(20_000, 7), "piece": "a", "geometry": true }).to_string();
    let mut worked = 0;
    for after in [150, 700, 1600, 2600] {
        let mut c = TcpStream::connect(("127.0.0.1", s.port)).unwrap();
        write!(
            c,
            "POST /api/evaluate HTTP/1.1\r\nHost: 127.0.0.1:{}\r\nContent-Type: \
                application/json\r\nContent-Length: {}\r\n\r\n{body}",
            s.port,
            body.len()
        )
        .unwrap();
        let begun = run();
        std::thread::sleep(Duration::from_millis(after));
        worked += u64::from(run() > begun + 5);
        drop(c);
        std::thread::sleep(Duration::from_millis(200));
        let left = run();
        std::thread::sleep(Duration::from_millis(500));
        assert!(
            run() <= left + 5,
            "{} hundredths of a second after a client that left {after} ms on",
            run() - left
        );
    }
    assert!(worked > 0, "it had nothing to do");
}

#[cfg(unix)]
#[test]
fn a_stop_ends_within_five_seconds_whatever_runs() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let mut s = start("serve", &folder.path().join("s.db"));
    for salt in 0..6 {
        let (agent, url, body) =
            (s.agent.clone(), s.url("/api/evaluate"), json!({ "job": holes(20_000, salt), "piece": "a" }));
        std::thread::spawn(move || agent.post(&url).send_json(&body).is_ok());
    }
    // And one that sends half a body.
    let mut half = TcpStream::connect(("127.0.0.1", s.port)).unwrap();
    write!(
        half,
        "POST /api/evaluate HTTP/1.1\r\nHost: 127.0.0.1:{}\r\nContent-Length: 5000\r\n\r\n{{",
        s.port
    )
    .unwrap();
    std::thread::sleep(Duration::from_millis(400));
    let begun = Instant::now();
    assert!(
        std::process::Command::new("kill")
            .args(["-TERM", &s.child.id().to_string()])
            .status()
            .unwrap()
            .success()
    );
    let status = s.child.wait().unwrap();
    assert!(begun.elapsed() < Duration::from_secs(5), "{:?}", begun.elapsed());
    assert_eq!(status.code(), Some(0));
}

/// A server whose log nobody reads any more, because the terminal or the pipe is gone, works on and can be
/// stopped. (Once, the word that it was stopping was the last thing it did.)
#[cfg(unix)]
#[test]
fn a_server_that_nobody_listens_to_works_on_and_stops() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
    let data = folder.path().join("s.db");
    let mut child = std::process::Command::new(env!("CARGO_BIN_EXE_steelk"))
        .args(["serve", "--port", &port.to_string(), "--data", data.to_str().unwrap()])
        .stdout(std::process::Stdio::piped())
        .stderr(std::process::Stdio::piped())
        .spawn()
        .unwrap();
    let url = format!("http://127.0.0.1:{port}/api");
    let up = (0..200).any(|_| {
        std::thread::sleep(Duration::from_millis(50));
        agent().get(&format!("{url}/health")).call().is_ok_and(|r| r.status().as_u16() == 200)
    });
    assert!(up);
    drop((child.stdout.take(), child.stderr.take()));
    // Something that is logged: a guess at the key is, and so is a failure.
    let made = agent().post(&format!("{url}/jobs")).send_json(strip_job("40")).unwrap();
    assert_eq!(made.status().as_u16(), 201);
    std::process::Command::new("kill").args(["-TERM", &child.id().to_string()]).status().unwrap();
    let begun = Instant::now();
    let status = loop {
        if let Some(status) = child.try_wait().unwrap() {
            break status;
        }
        if begun.elapsed() > Duration::from_secs(6) {
            child.kill().unwrap();
            panic!("it does not stop");
        }
        std::thread::sleep(Duration::from_millis(50));
    };
    assert_eq!(status.code(), Some(0));
}

#[test]
fn a_body_that_stalls_is_given_up() {
    let _turn = beside();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let mut c = TcpStream::connect(("127.0.0.1", s.port)).unwrap();
    c.set_read_timeout(Some(Duration::from_secs(30))).unwrap();
    write!(
        c,
        "POST /api/evaluate HTTP/1.1\r\nHost: 127.0.0.1:{}\r\nContent-Length: 5000\r\n\r\n{{\"job\":",
        s.port
    )
    .unwrap();
    let mut text = Vec::new();
    let mut part = [0; 4096];
    while !String::from_utf8_lossy(&text).contains('}') {
        match c.read(&mut part) {
            Ok(n) if n > 0 => text.extend_from_slice(&part[..n]),
            _ => break,
        }
    }
    let text = String::from_utf8_lossy(&text).to_string();
    assert!(text.starts_with("HTTP/1.1 408") && text.contains("too slowly"), "{text}");
}

/// Whatever is not a success is a problem document, with the right number.
#[test]
fn every_refusal_is_a_problem_document() {
    let _turn = beside();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let ask = |method: &str, path: &str, head: &str, body: &[u8]| {
        let mut c = TcpStream::connect(("127.0.0.1", s.port)).unwrap();
        write!(
            c,
            "{method} {path} HTTP/1.1\r\nHost: 127.0.0.1:{}\r\nConnection: \
            close\r\n{head}Content-Length: {}\r\n\r\n",
            s.port,
            body.len()
        )
        .unwrap();
        c.write_all(body).ok();
        let mut text = Vec::new();
        c.read_to_end(&mut text).ok();
        String::from_utf8_lossy(&text).to_string()
    };
    let good = json!({ "job": strip_job("40") }).to_string();
    let twice = good.replacen("\"title\"", "\"title\":\"one\",\"title\"", 1);
    let zero = good.replace("\"format\":1", "\"format\":0");
    let large = vec![b' '; 9 * 1024 * 1024];
    let dxf = vec![b' '; 33 * 1024 * 1024];
    let cases: [(&str, &str, &[u8], u16); 14] = [
        ("POST", "/", b"", 405),
        ("DELETE", "/", b"", 405),
        ("TRACE", "/", b"", 405),
        ("DELETE", "/api/jobs", b"", 404),
        ("GET", "/api/evaluate", b"", 404),
        ("GET", "/assets/none.js", b"", 404),
        ("GET", "/api/jobs?offset=18446744073709551616", b"", 400),
        ("POST", "/api/evaluate", b"{", 400),
        ("POST", "/api/evaluate", twice.as_bytes(), 400),
        ("POST", "/api/evaluate", zero.as_bytes(), 422),
        ("POST", "/api/evaluate", &large, 413),
        ("POST", "/api/files", &dxf, 413),
        ("POST", "/api/files", b"no drawing", 422),
        ("POST", "/api/skeleton", b"", 422),
    ];
    for (method, path, body, status) in cases {
        let text = ask(method, path, "", body);
        assert!(
            text.starts_with(&format!("HTTP/1.1 {status}")),
            "{method} {path}: {}",
            &text[..text.len().min(300)]
        );
        assert!(
            text.contains("application/problem+json") && text.contains("\"detail\""),
            "{method} {path}: {text}"
        );
    }
    assert!(ask("POST", "/api/evaluate", "", twice.as_bytes()).contains("stands twice"));
    // From another site, told by the browser alone.
    for (site, status) in [("cross-site", 403), ("same-site", 403), ("same-origin", 200), ("none", 200)] {
        let text = ask("POST", "/api/evaluate", &format!("Sec-Fetch-Site: {site}\r\n"), good.as_bytes());
        assert!(text.starts_with(&format!("HTTP/1.1 {status}")), "{site}: {text}");
    }
    let https =
        ask("POST", "/api/evaluate", &format!("Origin: https://127.0.0.1:{}\r\n", s.port), good.as_bytes());
    assert!(https.starts_with("HTTP/1.1 403"), "another scheme is another origin");
    assert!(ask("GET", "/api/jobs", "", b"").to_lowercase().contains("cache-control: no-store"));
    assert_eq!(s.get(&format!("/api/jobs?offset={}", u64::MAX)).0, 200);
}

/// What is taken in can be opened again: a job is measured as it is kept.
#[test]
fn a_job_that_grows_past_the_most_when_it_is_kept_is_refused() {
    let _turn = beside();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    // Lines written as short as they can be; every one is kept with its fields.
    let lines = |n: usize| vec![r#"{"id":"","say":{"verb":"mirror","of":[]}}"#; n].join(",");
    let job = |n: usize| {
        format!(
            r#"{{"format":1,"title":"x","pieces":[{{"id":"a","mark":"a","name":"","quantity":"1",
            "material":"s235","thickness":"1","lines":[{}]}}]}}"#,
            lines(n)
        )
    };
    let send = |text: &str| {
        let mut r =
            s.agent.post(s.url("/api/jobs")).header("content-type", "application/json").send(text).unwrap();
        (r.status().as_u16(), r.body_mut().read_json::<Value>().unwrap_or(Value::Null))
    };
    let large = job(150_000);
    assert!(large.len() < 8_000_000);
    let (status, said) = send(&large);
    assert!(status == 413 && said["title"].as_str().unwrap().contains("as it is kept"), "{status} {said}");
    // One that stays below it is taken, and opens again.
    let (status, made) = send(&job(20_000));
    assert_eq!(status, 201, "{made}");
    assert_eq!(s.get(&format!("/api/jobs/{}", made["id"].as_str().unwrap())).0, 200);
}

/// A malformed data base is shown as far as it goes; saves are refused in words.
#[test]
fn a_damaged_data_base_is_served_for_reading() {
    let _turn = beside();
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("s.db");
    let s = start("serve", &data);
    let ids: Vec<String> = (0..40)
        .map(|n| {
            s.post("/api/jobs", &strip_job(&format!("{}", 40 + n))).1["id"].as_str().unwrap().to_string()
        })
        .collect();
    drop(s);
    steelk(&["backup", "--data", data.to_str().unwrap(), folder.path().join("copy.db").to_str().unwrap()]);
    let copy = folder.path().join("copy.db");
    let mut bytes = std::fs::read(&copy).unwrap();
    let n = bytes.len();
    bytes[n - 4096..].fill(0x5a);
    std::fs::write(&copy, bytes).unwrap();
    let s = start("serve", &copy);
    let (status, rack) = s.get("/api/jobs");
    assert!(status == 200 || status == 503, "{rack}");
    if status == 200 {
        assert!(!rack["trouble"].as_str().unwrap().is_empty());
    }
    let read = ids.iter().filter(|id| s.get(&format!("/api/jobs/{id}")).0 == 200).count();
    assert!(read > 0);
    let (status, said) = s.post("/api/jobs", &strip_job("40"));
    assert!(status == 503 && said["title"].as_str().unwrap().contains("damaged"), "{said}");
    assert!(said["detail"].as_str().unwrap().contains("restore a backup"));
}

/// What would be endless is told before it is made; a picture is a few kB however many holes a piece has.
#[test]
fn what_would_be_too_much_is_said_before_it_is_made() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let (status, made) = s.post("/api/jobs", &holes(90_000, 0));
    assert_eq!(status, 201, "{made}");
    let path = format!("/api/jobs/{}", made["id"].as_str().unwrap());
    let begun = Instant::now();
    let (status, said) = s.get(&format!("{path}/papers/stl?piece=a"));
    assert!(status == 422 && said["title"].as_str().unwrap().contains("triangles"), "{said}");
    assert!(begun.elapsed() < Duration::from_secs(20));
    assert!(s.bytes(&format!("{path}/picture.svg")).1.len() < 20_000);
    // Of the same job figures alone are small, and say that the picture is to be asked for.
    let ask = |geometry: bool| {
        let body = json!({ "job": holes(2000, 1), "piece": "a", "geometry": geometry });
        let mut r = s.agent.post(s.url("/api/evaluate")).send_json(&body).unwrap();
        let bytes = r.body_mut().read_to_vec().unwrap();
        (bytes.len(), serde_json::from_slice::<Value>(&bytes).unwrap())
    };
    let ((small, first), (large, whole)) = (ask(false), ask(true));
    assert!(small < 30_000 && large > 4 * small && large < 1_500_000, "{small} {large}");
    assert_eq!((&first["piece"]["drawn"], &whole["piece"]["drawn"]), (&json!(false), &json!(true)));
    assert_eq!(first["piece"]["figures"], whole["piece"]["figures"]);
    assert_eq!(whole["piece"]["flat"]["shapes"].as_array().unwrap().len(), 1, "equal holes share an outline");
    let at = points(&whole["piece"]["flat"]["holes"]["at"]);
    assert_eq!(at.len(), 2000);
    let left = at.iter().map(|p| p[0]).fold(f32::MAX, f32::min);
    // The sheet is 1,241 wide about its middle; a hole of 5, 12 from the west edge, is told from its east
    // side.
    assert!((left + 620.5 - 14.5).abs() < 0.001, "{left}");
    assert_eq!(
        whole["piece"]["names"].as_array().unwrap().iter().filter(|n| *n == "punch-2").count(),
        1,
        "a name is told once"
    );
    // Lines that double what is there end in words.
    let mut lines = holes(100, 2)["pieces"][0]["lines"].as_array().unwrap().clone();
    lines.pop();
    for k in 0..60 {
        let of: Vec<Value> = lines[1..].iter().map(|l| l["id"].clone()).collect();
        lines.push(json!({ "id": format!("r{k}"), "say": { "verb": "repeat", "of": of, "axis": "east",
                "spacing": { "by": "pitch", "count": "2", "pitch": "2" } } }));
    }
    let mut job = holes(100, 2);
    job["pieces"][0]["lines"] = json!(lines);
    let begun = Instant::now();
    let (status, got) = s.post("/api/evaluate", &json!({ "job": job, "piece": "a", "geometry": false }));
    assert!(
        status == 200 && got["piece"]["faults"].to_string().contains("200000 is the most"),
        "{status} {}",
        got.to_string().chars().take(800).collect::<String>()
    );
    assert!(begun.elapsed() < Duration::from_secs(25), "{:?}", begun.elapsed());
}

/// A failure of our own is logged with its cause.
#[test]
fn a_failure_leaves_its_cause_in_the_log() {
    let _turn = beside();
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("s.db");
    let s = start_logged("serve", &data, &folder.path().join("log"));
    s.post("/api/jobs", &strip_job("40"));
    rusqlite::Connection::open(&data)
        .unwrap()
        .execute_batch("ALTER TABLE revisions RENAME TO elsewhere")
        .unwrap();
    let (status, said) = s.get("/api/jobs");
    assert!(status == 500 && said["detail"].as_str().unwrap().contains("log"), "{said}");
    let log = std::fs::read_to_string(folder.path().join("log")).unwrap();
    assert!(log.contains("a request failed") && log.contains("revisions"), "{log}");
}

/// A small job can ask for a huge file: it is refused by its size before any of it is made, and the next
/// smaller one is not.
#[test]
fn a_mesh_file_that_would_be_too_large_is_refused_before_it_is_made() {
    let _turn = beside();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let file = |n: usize, diameter: &str| {
        let job: Value = serde_json::from_str(
            &holes(n, 3).to_string().replace("\"diameter\":\"5\"", &format!("\"diameter\":\"{diameter}\"")),
        )
        .unwrap();
        let (status, made) = s.post("/api/jobs", &job);
        assert_eq!(status, 201, "{made}");
        format!("/api/jobs/{}/papers", made["id"].as_str().unwrap())
    };
    let large = file(20_000, "11");
    let (status, told) = s.get(&format!("{large}/stl?piece=a"));
    let detail = format!("{} {}", told["title"].as_str().unwrap(), told["detail"].as_str().unwrap());
    assert!(status == 422 && detail.contains("triangles") && detail.contains("DXF"), "{status} {told}");
    let stl = s.bytes(&format!("{}/stl?piece=a", file(1_000, "11"))).1;
    let triangles = u32::from_le_bytes(stl[80..84].try_into().unwrap()) as usize;
    assert_eq!(stl.len(), 84 + 50 * triangles);
    // What was told of the large one is what the small one has, twenty times over.
    let about: usize = detail.split("about ").nth(1).unwrap().split(' ').next().unwrap().parse().unwrap();
    assert!(
        (about as f64 / (20.0 * triangles as f64) - 1.0).abs() < 0.1,
        "{about} told, 20 × {triangles} made"
    );
}

/// A drawing of 20 MB, 230,000 loose lines, is read within 300 MB.
#[test]
#[cfg(target_os = "linux")]
fn a_large_drawing_is_read_within_its_memory() {
    let _turn = alone();
    let folder = tempfile::tempdir().unwrap();
    let s = start("serve", &folder.path().join("s.db"));
    let line = |a: [f64; 2], b: [f64; 2]| {
        format!(
            "0\nLINE\n8\nCUTS-OF-THE-SHOP\n62\n7\n10\n{}\n20\n{}\n30\n0.0\n11\n{}\n21\n{}\n31\n0.0\n",
            a[0], a[1], b[0], b[1]
        )
    };
    let mut text =
        String::from("0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n");
    let mut k = 0;
    while text.len() < 20_000_000 {
        let (x, y) = (f64::from(k % 300) * 8.125, f64::from(k / 300) * 8.125);
        let p = [[x, y], [x + 5.0, y], [x + 5.0, y + 5.0], [x, y + 5.0]];
        (0..4).for_each(|i| text += &line(p[i], p[(i + 1) % 4]));
        k += 1;
    }
    text += "0\nENDSEC\n0\nEOF\n";
    let kept: Value =
        s.agent.post(s.url("/api/files")).send(text.as_bytes()).unwrap().body_mut().read_json().unwrap();
    let (status, said) = s.post("/api/drawings", &json!({ "file": kept["digest"] }));
    assert!(status == 422 && said["title"].as_str().unwrap().contains("contours; 20000 at most"), "{said}");
    assert!(peak(&s) < 300_000, "{} kB", peak(&s));
}
