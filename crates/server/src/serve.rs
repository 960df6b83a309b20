//! The server: started, and stopped within five seconds whatever runs.

use std::path::PathBuf;
use std::process::ExitCode;
use std::sync::Arc;
use std::time::Duration;

use actix_web::dev::ServerHandle;
use actix_web::rt::signal;
use actix_web::{App, HttpServer, middleware, web};
use steelk_store::Store;

use crate::api::{self, State};
use crate::guard::{self, Access, Key};
use crate::line::Line;
use crate::{assets, demo};

#[derive(clap::Args)]
pub struct Serve {
    #[arg(long, default_value_t = 7845)]
    port: u16,
    /// Address to listen on; beyond this machine only with a key.
    #[arg(long, default_value = "127.0.0.1")]
    bind: String,
    /// Access key for listening beyond this machine. The process list shows it: STEELK_KEY or --key-file do
    /// not.
    #[arg(long)]
    key: Option<String>,
    /// A file that holds the access key.
    #[arg(long)]
    key_file: Option<PathBuf>,
    /// The data base.
    #[arg(long, default_value = "data/steelk.db")]
    data: PathBuf,
}

/// Answers in hand are given so long to end.
const GRACE: u64 = 3;
/// Then the process ends.
const LAST: Duration = Duration::from_millis(4500);
/// Connections at once, a thread of answering.
const CONNECTIONS: usize = 512;

fn key(s: &Serve) -> Result<Option<Key>, String> {
    let from_file = s
        .key_file
        .as_ref()
        .map(|f| std::fs::read_to_string(f).map_err(|e| format!("{}: {e}", f.display())))
        .transpose()?;
    if s.key.is_some() {
        tracing::warn!(
            "the access key stands in the process list, where others on this machine can read it; STEELK_KEY \
                or --key-file keep it out"
        );
    }
    let told = s.key.clone().or(from_file).or_else(|| std::env::var("STEELK_KEY").ok());
    Key::new(&told.unwrap_or_default())
}

pub fn serve(s: Serve, with_demo: bool) -> Result<ExitCode, String> {
    let key = key(&s)?;
    guard::may_bind(&s.bind, key.as_ref())?;
    let store = Store::open(&s.data).map_err(|e| e.to_string())?;
    if let Some(why) = store.damage() {
        tracing::error!(
            "{} is damaged ({why}). It is shown as far as it can be read; nothing is saved into it. Restore \
                a backup",
            s.data.display()
        );
    }
    let sound = store.damage().is_none();
    let state = State::new(store);
    if with_demo && sound && demo::fill(&state)? {
        tracing::info!("the sample job is on the rack");
    }
    let access = Access { port: s.port, bind: s.bind.clone(), key, guesses: Arc::default() };
    let desk = state.desk.clone();
    let done = actix_web::rt::System::new().block_on(async move {
        let server = HttpServer::new(move || {
            App::new()
                .app_data(web::Data::new(state.clone()))
                .app_data(web::Data::new(access.clone()))
                .wrap(middleware::Compress::default())
                .wrap(middleware::from_fn(guard::guard))
                .configure(api::routes)
                .default_service(web::to(assets::serve))
        })
        .on_connect(|connection, data| {
            data.insert(Line::of(connection));
        })
        .workers(2)
        // An answer goes out in several writes: the last of them must not wait for word of the first.
        .tcp_nodelay(true)
        .max_connections(CONNECTIONS)
        .disable_signals()
        .shutdown_timeout(GRACE)
        .bind((s.bind.as_str(), s.port))?;
        tracing::info!("Steelk stands at http://{}:{}/", s.bind, s.port);
        let server = server.run();
        actix_web::rt::spawn(stop_when_told(server.handle(), desk));
        server.await
    });
    done.map_err(|e| e.to_string())?;
    // Threads that are still at work have nothing to say any more; every save that was acknowledged is on the
    // disk.
    std::process::exit(0);
}

async fn stop_when_told(server: ServerHandle, desk: Arc<crate::desk::Desk>) {
    asked_to_stop().await;
    desk.close();
    std::thread::spawn(|| {
        std::thread::sleep(LAST);
        std::process::exit(0);
    });
    tracing::info!("stopping");
    server.stop(true).await;
}

#[cfg(unix)]
async fn asked_to_stop() {
    let mut told = [
        signal::unix::SignalKind::terminate(),
        signal::unix::SignalKind::interrupt(),
        signal::unix::SignalKind::quit(),
    ]
    .into_iter()
    .filter_map(|kind| signal::unix::signal(kind).ok())
    .collect::<Vec<_>>();
    std::future::poll_fn(|cx| {
        let any = told.iter_mut().any(|s| s.poll_recv(cx).is_ready());
        if any { std::task::Poll::Ready(()) } else { std::task::Poll::Pending }
    })
    .await;
}

#[cfg(not(unix))]
async fn asked_to_stop() {
    signal::ctrl_c().await.ok();
}
