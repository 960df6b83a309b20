# Two commands do everything: `make demo` and `make test`. Both install what they need.

NPM_CI = npm ci --no-audit --no-fund
PORT ?= 7845

.PHONY: demo test ready python web release tools chromium unit outside pages browser lint fuzz siege bench api shots clean

## build Steelk and start it with its sample job
demo: release
	./target/release/steelk demo --port $(PORT)

## install what the tests need (Chromium too) and run them all
# What is fetched comes in while the compiler looks at the code.
test: tools
	$(MAKE) --no-print-directory -j2 --output-sync=target ready lint
	$(MAKE) --no-print-directory BUILT=1 unit outside pages browser

ready: chromium python web e2e/node_modules

release: web
	cargo build --release --locked

web: web/node_modules
	@[ -n "$(BUILT)" ] || (cd web && npm run --silent build)

web/node_modules: web/package-lock.json web/package.json
	cd web && $(NPM_CI)
	@touch $@

e2e/node_modules: e2e/package-lock.json e2e/package.json
	cd e2e && $(NPM_CI)
	@touch $@

tools:
	./.ci/tools

chromium:
	./.ci/chromium

# Both may ask the system for packages: one after the other.
python: | chromium
	./.ci/python

lint: web
	cargo fmt --check
	cargo clippy --workspace --all-targets --locked -- -D warnings
	cargo test --quiet --workspace --test house --locked
	cd web && npm run --silent lint
	cd e2e && ../web/node_modules/.bin/biome check .

# One seed, so that the same code always passes or always fails; `make fuzz` looks further.
unit: web
	PROPTEST_RNG_SEED=20261124 cargo test --workspace --locked --no-fail-fast

# Files and descriptions as independent libraries see them. The binary that the unit tests built: a plain
# build leaves out what only tests ask of the libraries, and compiles everything anew.
outside: python
	cargo test --workspace --locked --no-run
	target/outside/bin/pytest -q -n 2 --dist worksteal -p no:cacheprovider outside

# The page's plain logic: saving, merging, what is left behind.
pages: web/node_modules
	cd web && npm run --silent test

# The binary that the unit tests built: with the same features nothing is compiled twice.
browser: web e2e/node_modules
	cargo test --workspace --locked --no-run
	cd e2e && npx playwright test

## the random tests with a new seed each time and CASES of each: what it finds becomes a test
CASES ?= 2000
fuzz: web
	PROPTEST_CASES=$(CASES) PROPTEST_MAX_GLOBAL_REJECTS=10000000 cargo test --workspace --locked

## the server under fire for MINUTES: kills, floods, full disk, mutants; prints what was lost, peak memory, slowest small answer
MINUTES ?= 10
siege: release
	python3 siege/siege.py --minutes $(MINUTES)

## figures for docs/benchmarks.md
bench: release e2e/node_modules
	cargo bench --workspace --benches --locked
	cd e2e && node latency.mjs

## docs/openapi.json, docs/job.schema.json, docs/verbs.md and the web's types, from the server's own description
api: web/node_modules
	cargo run --quiet -p steelk -- openapi > docs/openapi.json
	cargo run --quiet -p steelk -- schema > docs/job.schema.json
	cargo run --quiet -p steelk -- verbs > docs/verbs.md
	cd web && npm run --silent api

## docs/screenshots, from the demo data
shots: release e2e/node_modules
	cd e2e && node shots.mjs

clean:
	rm -rf target web/dist web/node_modules e2e/node_modules
