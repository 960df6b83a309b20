//! What can be said of a piece and of a frame: one file a verb, with its type, its sentence, its usual
//! values, its keys and its examples. A verb is registered by one line below.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use crate::grammar::{self, Bench, Context, Role, Verb};
use crate::quantity::Fault;

/// What a line says: every field has its usual value, so that a line told in part is read and told what it
/// lacks.
macro_rules! spoken {
    ($(#[$m:meta])* pub struct $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Debug, Default, PartialEq, serde::Serialize, serde::Deserialize)]
        #[serde(default, deny_unknown_fields)]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub struct $name { $($body)* }
    };
}

macro_rules! word {
    ($(#[$m:meta])* pub enum $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Copy, Debug, Default, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
        #[serde(rename_all = "snake_case")]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $name { $($body)* }
    };
}

/// A choice that brings values of its own, told by a field.
macro_rules! choice {
    ($(#[$m:meta])* pub enum $name:ident by $tag:tt { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Debug, PartialEq, serde::Serialize, serde::Deserialize)]
        #[serde(tag = $tag, rename_all = "snake_case", deny_unknown_fields)]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $name { $($body)* }
    };
}

/// The lines of a bench: one line a verb registers it.
macro_rules! verbs {
    ($(#[$m:meta])* $say:ident, $bench:ident: $($variant:ident($module:ident::$type:ident)),* $(,)?) => {
        $(#[$m])*
        #[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
        #[serde(tag = "verb", rename_all = "snake_case")]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $say { $($variant($module::$type)),* }

        impl $say {
            /// How it is told.
            pub fn verb(&self) -> &'static Verb {
                match self { $($say::$variant(_) => &$module::VERB),* }
            }
        }

        /// The verbs that its lines are told by.
        pub static $bench: LazyLock<Bench> = LazyLock::new(|| {
            Bench::of([$(&$module::VERB),*], |v| {
                serde_json::to_value(serde_json::from_value::<$say>(v.clone()).ok()?).ok()
            })
        });
    };
}

/// A value that is told and says nothing is the same as one that is not told.
fn unusual<'de, D, T>(from: D) -> Result<Option<T>, D::Error>
where
    D: serde::Deserializer<'de>,
    T: Default + PartialEq + Deserialize<'de>,
{
    Ok(Option::<T>::deserialize(from)?.filter(|v| *v != T::default()))
}

fn zero() -> String {
    "0".into()
}

mod frame;
mod piece;

pub use frame::*;
pub use piece::*;

impl Say {
    pub fn is_start(&self) -> bool {
        self.verb().role == Role::Start
    }

    pub fn bends(&self) -> bool {
        self.verb().role == Role::Bend
    }

    /// Makes features that can be repeated and mirrored.
    pub fn is_cut(&self) -> bool {
        self.verb().role == Role::Cut
    }
}

/// A typed line of a piece → what it says.
pub fn read_line(text: &str, context: &Context) -> Result<Say, Fault> {
    typed(grammar::read(&PIECE, text, context)?, text)
}

/// A typed line of a frame → what it says.
pub fn read_frame_line(text: &str, context: &Context) -> Result<FrameSay, Fault> {
    typed(grammar::read(&FRAME, text, context)?, text)
}

fn typed<T: serde::de::DeserializeOwned>(value: serde_json::Value, text: &str) -> Result<T, Fault> {
    let all = (0, text.chars().count());
    serde_json::from_value(value)
        .map_err(|e| Fault::new(e.to_string(), "write it as the line's help shows", all))
}
