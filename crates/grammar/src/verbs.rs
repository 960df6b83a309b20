//! Registering verbs: one line each.

use serde_json::Value;

/// The lines of a bench: one line a verb registers it.
#[macro_export]
macro_rules! verbs {
    // With the trait of what can be done with a line.
    (
        $(#[$m:meta])* $say:ident as $spoken:path, $bench:ident $(hearing $heard:path)?:
        $($variant:ident($module:ident::$type:ident)),* $(,)?
    ) => {
        $crate::verbs! { $(#[$m])* $say, $bench $(hearing $heard)?: $($variant($module::$type)),* }

        impl $say {
            /// What it says, as a kind of line.
            pub fn spoken(&self) -> &dyn $spoken {
                match self { $($say::$variant(s) => s),* }
            }
        }
    };
    (
        $(#[$m:meta])* $say:ident, $bench:ident $(hearing $heard:path)?:
        $($variant:ident($module:ident::$type:ident)),* $(,)?
    ) => {
        $(#[$m])*
        #[derive(Clone, Debug, PartialEq, serde::Serialize, serde::Deserialize)]
        #[serde(tag = "verb", rename_all = "snake_case")]
        #[cfg_attr(feature = "utoipa", derive(utoipa::ToSchema))]
        pub enum $say { $($variant($module::$type)),* }

        impl $say {
            /// How it is told.
            pub fn verb(&self) -> &'static $crate::Verb {
                match self { $($say::$variant(_) => &$module::VERB),* }
            }
        }

        /// The verbs that its lines are told by.
        pub static $bench: std::sync::LazyLock<$crate::Bench> = std::sync::LazyLock::new(|| {
            $crate::Bench::of([$(&$module::VERB),*], |v| {
                serde_json::to_value(serde_json::from_value::<$say>(v.clone()).ok()?).ok()
            })
            $(.hearing($heard))?
        });
    };
}

/// A value read by a verb's own description → its type.
pub fn into_type<T: serde::de::DeserializeOwned>(
    value: Value,
    text: &str,
) -> Result<T, ground::quantity::Fault> {
    let all = (0, text.chars().count());
    serde_json::from_value(value)
        .map_err(|e| ground::quantity::Fault::new(e.to_string(), "write it as the line's help shows", all))
}
