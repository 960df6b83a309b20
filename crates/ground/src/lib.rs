//! What everything else stands on: values as a shop writes them, geometry with true arcs, and what is told of
//! a piece besides its geometry (findings, faults, workings). Nothing here knows of a piece or a frame.

pub mod finding;
pub mod geom;
pub mod halt;
pub mod lines;
pub mod quantity;
pub mod reader;
pub mod reference;
pub mod working;

/// A part of the job's file whose fields have to be told.
#[macro_export]
macro_rules! said {
    ($(#[$m:meta])* pub struct $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Debug, Default, PartialEq, serde::Serialize, serde::Deserialize)]
        #[serde(deny_unknown_fields)]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub struct $name { $($body)* }
    };
}

/// What a line says: every field has its usual value, so that a line told in part is read and told what it
/// lacks.
#[macro_export]
macro_rules! spoken {
    ($(#[$m:meta])* pub struct $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Debug, Default, PartialEq, serde::Serialize, serde::Deserialize)]
        #[serde(default, deny_unknown_fields)]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub struct $name { $($body)* }
    };
}

/// A choice of words.
#[macro_export]
macro_rules! word {
    ($(#[$m:meta])* pub enum $name:ident { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Copy, Debug, Default, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
        #[serde(rename_all = "snake_case")]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $name { $($body)* }
    };
}

/// A choice that brings values of its own, told by a field. A case without values is written `Case {}`: one
/// without the braces takes fields that nobody knows.
#[macro_export]
macro_rules! choice {
    ($(#[$m:meta])* pub enum $name:ident by $tag:tt { $($body:tt)* }) => {
        $(#[$m])*
        #[derive(Clone, Debug, PartialEq, serde::Serialize, serde::Deserialize)]
        #[serde(tag = $tag, rename_all = "snake_case", deny_unknown_fields)]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $name { $($body)* }
    };
}
