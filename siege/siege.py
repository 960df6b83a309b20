#!/usr/bin/env python3
"""Steelk under fire for ten minutes, on this machine only: kills, stops, a full disk, restores under load, floods of heavy requests with a
small one beside them each 100 ms, hang-ups, mutated jobs and DXF files. Prints what was lost, the peak memory and the slowest small answer.

    siege.py [--minutes 10] [--steelk target/release/steelk]

Only Python's own library; traffic goes to 127.0.0.1 alone. Exit code 1 when a bound is broken."""

import argparse, http.client, json, os, random, shutil, signal, socket, subprocess, sys, tempfile, threading, time

HERE = os.path.dirname(os.path.abspath(__file__))
HEADERS = {"Content-Type": "application/json"}
MOST_MEMORY_KB = 1_500_000
SLOWEST_SMALL = 0.25
STOP_WITHIN = 5.0


def free_port():
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return s.getsockname()[1]


class Server:
    def __init__(self, binary, data):
        self.binary, self.data, self.port, self.peak = binary, data, free_port(), 0
        self.start()

    def start(self):
        self.process = subprocess.Popen([self.binary, "serve", "--port", str(self.port), "--data", self.data],
                                        stdout=subprocess.DEVNULL, stderr=open(os.path.join(os.path.dirname(self.data), "log"), "ab"))
        for _ in range(500):
            try:
                if self.ask("GET", "/api/health", timeout=2)[0] == 200:
                    return
            except OSError:
                pass
            if self.process.poll() is not None:
                raise SystemExit("the server did not start: see its log")
            time.sleep(0.02)
        raise SystemExit("the server did not start in ten seconds")

    def ask(self, method, path, body=None, headers=None, timeout=60):
        c = http.client.HTTPConnection("127.0.0.1", self.port, timeout=timeout)
        try:
            data = body if isinstance(body, (bytes, type(None))) else json.dumps(body).encode()
            c.request(method, path, data, {**HEADERS, **(headers or {})})
            r = c.getresponse()
            return r.status, r.read()
        finally:
            c.close()

    def memory(self):
        try:
            with open(f"/proc/{self.process.pid}/status") as f:
                for line in f:
                    if line.startswith("VmHWM:"):
                        self.peak = max(self.peak, int(line.split()[1]))
        except OSError:
            pass
        return self.peak

    def kill(self, how=signal.SIGKILL):
        self.memory()
        begun = time.monotonic()
        self.process.send_signal(how)
        self.process.wait()
        return time.monotonic() - begun


def strip(leg):
    return {"format": 1, "title": "siege", "number": "S-1", "pieces": [{"id": "a", "mark": "P-1", "name": "angle", "quantity": "1", "material": "s235", "thickness": "2", "radius": "2", "lines": [
        {"id": "start-1", "say": {"verb": "start_strip", "width": "30", "profile": [{"kind": "leg", "id": "a", "length": str(leg)}, {"kind": "bend", "id": "1", "angle": "90"}, {"kind": "leg", "id": "b", "length": "60"}]}}]}]}


def holes(n, salt):
    columns, rows = 100, n // 100
    at = lambda x, y: {"x": {"from": "west", "distance": str(x)}, "y": {"from": "south", "distance": str(y)}}
    punch = lambda i, x, y: {"id": f"punch-{i}", "say": {"verb": "punch", "shape": {"kind": "round", "diameter": "5"}, "place": at(x, y)}}
    return {"format": 1, "title": "flood", "pieces": [{"id": "a", "mark": "P-1", "name": "sheet", "quantity": "1", "material": "s235", "thickness": "1", "lines": [
        {"id": "start-1", "say": {"verb": "start_plate", "width": str(columns * 12 + 60 + salt), "height": str(rows * 24 + 60)}},
        punch(1, 12, 12), punch(2, 18, 24),
        {"id": "repeat-1", "say": {"verb": "repeat", "of": ["punch-1", "punch-2"], "axis": "east", "spacing": {"by": "pitch", "count": str(columns), "pitch": "12"},
                                   "across": {"by": "pitch", "count": str(max(rows // 2, 1)), "pitch": "24"}}}]}]}


class Siege:
    def __init__(self, binary, minutes):
        self.binary = binary
        self.folder = tempfile.mkdtemp(prefix="steelk-siege-")
        self.server = Server(binary, os.path.join(self.folder, "s.db"))
        self.end = time.monotonic() + minutes * 60
        self.minutes = minutes
        self.random = random.Random(20261125)
        self.lost, self.notes, self.small, self.counts, self.stops = [], [], [], {}, []

    def count(self, what, n=1):
        self.counts[what] = self.counts.get(what, 0) + n

    def part(self, share):
        return min(time.monotonic() + self.minutes * 60 * share, self.end)

    def say(self, text):
        print(f"[{self.minutes * 60 - max(self.end - time.monotonic(), 0):5.0f} s] {text}", flush=True)

    # Saves, with the server killed and stopped amid them. Nothing acknowledged may be missing.
    def kills(self, until):
        s = self.server
        _, body = s.ask("POST", "/api/jobs", strip(40))
        job = json.loads(body)["id"]
        told, running = {"revision": 1}, threading.Event()
        while time.monotonic() < until:
            running.set()
            def save():
                while running.is_set():
                    n = told["revision"]
                    try:
                        status, _ = s.ask("PUT", f"/api/jobs/{job}", {"job": strip(40 + n), "token": f"t{n}"}, {"If-Match": f'"{n}"'}, timeout=10)
                    except OSError:
                        return
                    if status != 200:
                        return
                    told["revision"] = n + 1
                    self.count("saves acknowledged")
            saver = threading.Thread(target=save)
            saver.start()
            time.sleep(self.random.uniform(0.05, 0.8))
            how = self.random.choice([signal.SIGKILL, signal.SIGKILL, signal.SIGTERM])
            took = s.kill(how)
            if how == signal.SIGTERM:
                self.stops.append(took)
            running.clear()
            saver.join()
            s.start()
            self.count("kills" if how == signal.SIGKILL else "stops")
            _, body = s.ask("GET", f"/api/jobs/{job}")
            found = json.loads(body)
            leg = int(found["job"]["pieces"][0]["lines"][0]["say"]["profile"][0]["length"])
            # One that was in flight may have come through without its answer.
            if found["revision"] < told["revision"] or leg != 40 + found["revision"] - 1:
                self.lost.append(f"acknowledged {told['revision']}, found {found['revision']} with {leg}")
            told["revision"] = found["revision"]

    # Heavy requests by the hundred; beside them a small one each 100 ms. Some hang up, some ask anew.
    def flood(self, until):
        s, going = self.server, threading.Event()
        going.set()
        def heavy(k):
            salt = k
            while going.is_set():
                salt += 1000
                try:
                    kind = k % 5
                    if kind == 0:
                        c = socket.create_connection(("127.0.0.1", s.port), timeout=30)
                        text = json.dumps({"job": holes(40_000, salt % 5000), "piece": "a"}).encode()
                        c.sendall(b"POST /api/evaluate HTTP/1.1\r\nHost: 127.0.0.1:%d\r\nContent-Length: %d\r\n\r\n%s" % (s.port, len(text), text))
                        time.sleep(0.2)
                        c.close()
                        self.count("hang-ups")
                    else:
                        head = {"X-Steelk-Page": f"page-{k % 20}"} if kind == 1 else {}
                        status, _ = s.ask("POST", "/api/evaluate", {"job": holes(10_000, salt % 5000), "piece": "a"}, head, timeout=60)
                        self.count(f"heavy answers {status}")
                        if status == 503:
                            time.sleep(1)
                except OSError as e:
                    self.count(f"heavy: {type(e).__name__}")
        threads = [threading.Thread(target=heavy, args=(k,), daemon=True) for k in range(200)]
        for t in threads:
            t.start()
        leg = 100
        while time.monotonic() < until:
            leg += 1
            begun = time.monotonic()
            status, _ = s.ask("POST", "/api/evaluate", {"job": strip(leg), "piece": "a"})
            self.small.append(time.monotonic() - begun)
            self.count(f"small answers {status}")
            if status != 200:
                self.notes.append(f"a small request got {status}")
            s.memory()
            time.sleep(max(0.1 - (time.monotonic() - begun), 0))
        # A stop in the middle of it.
        took = s.kill(signal.SIGTERM)
        self.stops.append(took)
        going.clear()
        s.start()
        for t in threads:
            t.join(timeout=90)

    # Jobs and drawings with bytes changed, cut and doubled: every answer is an answer.
    def mutants(self, until):
        s = self.server
        with open(os.path.join(HERE, "..", "demo", "orchard-line.steelk.json"), "rb") as f:
            job = f.read()
        _, made = s.ask("POST", "/api/jobs", job)
        drawing = s.ask("GET", f"/api/jobs/{json.loads(made)['id']}/papers/dxf?piece=P-101")[1]
        while time.monotonic() < until:
            which = self.random.random() < 0.5
            text = bytearray(job if which else drawing)
            for _ in range(self.random.randint(1, 30)):
                at = self.random.randrange(len(text))
                act = self.random.randrange(4)
                if act == 0:
                    text[at] = self.random.randrange(256)
                elif act == 1:
                    del text[at:at + self.random.randint(1, 200)]
                elif act == 2:
                    text[at:at] = text[at:at + self.random.randint(1, 400)]
                else:
                    text[at:at] = str(self.random.choice([0, -1, 1e308, 2**63, "NaN", "1/0", "((((", "\ufffe"])).encode()
            body = b'{"job":' + bytes(text) + b',"piece":"stand"}' if which else bytes(text)
            try:
                status, answer = s.ask("POST", "/api/evaluate" if which else "/api/files", body)
                if not which and status == 200:
                    seen = json.dumps({"file": json.loads(answer)["digest"]}).encode()
                    status, answer = s.ask("POST", "/api/drawings", seen)
            except OSError as e:
                self.lost.append(f"no answer to a mutated {'job' if which else 'drawing'}: {e}")
                if s.process.poll() is not None:
                    keep = os.path.join(tempfile.gettempdir(), f"steelk-mutant-{int(time.time())}")
                    open(keep, "wb").write(body)
                    self.notes.append(f"the server ended at {keep}")
                    s.start()
                continue
            self.count(f"mutants {status}")
            if status >= 500:
                self.notes.append(f"a mutant got {status}: {answer[:200]!r}")

    # Backup and restore while saves go on: refused where it must be, whole where it may.
    def copies(self, until):
        s = self.server
        run = lambda *a: subprocess.run([self.binary, *a], capture_output=True, text=True)
        n = 0
        while time.monotonic() < until:
            n += 1
            copy = os.path.join(self.folder, f"copy-{n}.db")
            _, body = s.ask("POST", "/api/jobs", strip(40 + n))
            job = json.loads(body)["id"]
            if run("backup", "--data", s.data, copy).returncode != 0:
                self.lost.append("a backup failed")
            if run("restore", "--data", s.data, copy).returncode == 0:
                self.lost.append("a restore under a running server was carried out")
            s.ask("PUT", f"/api/jobs/{job}", {"job": strip(999), "token": "x"}, {"If-Match": '"1"'})
            s.kill(signal.SIGTERM)
            if run("restore", "--data", s.data, copy).returncode != 0:
                self.lost.append("a restore failed")
            s.start()
            found = json.loads(s.ask("GET", f"/api/jobs/{job}")[1])
            if found.get("revision") != 1:
                self.lost.append(f"after a restore revision {found.get('revision')} stands")
            os.remove(copy)
            self.count("backups and restores")

    # A disk of 3 MB, filled to the brim: saves are refused, and what was acknowledged stays.
    def full_disk(self):
        small = os.path.join(self.folder, "small")
        os.mkdir(small)
        if subprocess.run(["mount", "-t", "tmpfs", "-o", "size=3m", "tmpfs", small], capture_output=True).returncode != 0:
            self.notes.append("no small disk could be mounted here: the full disk was not tried")
            return
        try:
            s = Server(self.binary, os.path.join(small, "s.db"))
            _, body = s.ask("POST", "/api/jobs", strip(40))
            job, n, refused = json.loads(body)["id"], 1, 0
            for _ in range(4000):
                note = {"job": {**strip(40 + n), "note": "x" * 2000}, "token": f"t{n}"}
                status, answer = s.ask("PUT", f"/api/jobs/{job}", note, {"If-Match": f'"{n}"'})
                if status == 200:
                    n += 1
                else:
                    refused += 1
                    if status not in (500, 503) or refused > 5:
                        break
            if refused == 0:
                self.notes.append("the small disk was never full")
            s.kill()
            copy = subprocess.run([self.binary, "restore", "--data", s.data, s.data + "x"], capture_output=True)
            s.start()
            found = json.loads(s.ask("GET", f"/api/jobs/{job}")[1])["revision"]
            if found < n or copy.returncode == 0:
                self.lost.append(f"on a full disk: acknowledged {n}, found {found}")
            self.count("saves before the disk was full", n)
            s.kill(signal.SIGTERM)
        finally:
            subprocess.run(["umount", "-l", small], capture_output=True)

    def go(self):
        self.say("saves amid kills and stops")
        self.kills(self.part(0.25))
        self.say("200 at once that are heavy, a small one each 100 ms")
        self.flood(self.part(0.4))
        self.say("mutated jobs and drawings")
        self.mutants(self.part(0.2))
        self.say("backups and restores under load")
        self.copies(self.part(0.1))
        self.say("a full disk")
        self.full_disk()
        self.server.memory()
        self.server.kill(signal.SIGTERM)
        slow = sorted(self.small)
        at = lambda share: slow[min(int(len(slow) * share), len(slow) - 1)] if slow else 0
        print(json.dumps(self.counts, indent=1, sort_keys=True))
        for note in self.notes[:20]:
            print("note:", note)
        print(f"lost: {'; '.join(self.lost[:10]) if self.lost else 'nothing'}")
        print(f"peak memory: {self.server.peak / 1000:.0f} MB")
        print(f"small answers: median {at(0.5) * 1000:.0f} ms, 99 % within {at(0.99) * 1000:.0f} ms, slowest {at(1) * 1000:.0f} ms of {len(slow)}")
        print(f"slowest stop: {max(self.stops, default=0):.1f} s of {len(self.stops)}")
        broken = bool(self.lost) or self.server.peak > MOST_MEMORY_KB or at(1) > SLOWEST_SMALL or max(self.stops, default=0) > STOP_WITHIN
        shutil.rmtree(self.folder, ignore_errors=True)
        return 1 if broken else 0


if __name__ == "__main__":
    ask = argparse.ArgumentParser(description=__doc__)
    ask.add_argument("--minutes", type=float, default=10)
    ask.add_argument("--steelk", default=os.path.join(HERE, "..", "target", "release", "steelk"))
    told = ask.parse_args()
    sys.exit(Siege(told.steelk, told.minutes).go())
