//! JSON in which a key stands once. Of two equal keys, readers commonly keep the last without a word; here
//! they are refused.

use serde::de::{Deserialize, DeserializeSeed, Deserializer, Error, MapAccess, SeqAccess, Visitor};
use serde_json::{Map, Value};

/// Reads a JSON text. A byte-order mark before it is passed over.
pub fn value(bytes: &[u8]) -> Result<Value, String> {
    let bytes = bytes.strip_prefix(b"\xef\xbb\xbf").unwrap_or(bytes);
    serde_json::from_slice::<Strict>(bytes).map(|s| s.0).map_err(|e| e.to_string())
}

struct Strict(Value);

impl<'de> Deserialize<'de> for Strict {
    fn deserialize<D: Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        Keys.deserialize(d).map(Strict)
    }
}

struct Keys;

impl<'de> DeserializeSeed<'de> for Keys {
    type Value = Value;

    fn deserialize<D: Deserializer<'de>>(self, d: D) -> Result<Value, D::Error> {
        d.deserialize_any(self)
    }
}

impl<'de> Visitor<'de> for Keys {
    type Value = Value;

    fn expecting(&self, f: &mut std::fmt::Formatter) -> std::fmt::Result {
        f.write_str("JSON")
    }

    fn visit_bool<E>(self, v: bool) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_i64<E>(self, v: i64) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_u64<E>(self, v: u64) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_f64<E>(self, v: f64) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_str<E>(self, v: &str) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_string<E>(self, v: String) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_unit<E>(self) -> Result<Value, E> {
        Ok(Value::Null)
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut seq: A) -> Result<Value, A::Error> {
        let mut out = Vec::new();
        while let Some(v) = seq.next_element_seed(Keys)? {
            out.push(v);
        }
        Ok(Value::Array(out))
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<Value, A::Error> {
        let mut out = Map::new();
        while let Some(key) = map.next_key::<String>()? {
            if out.contains_key(&key) {
                return Err(A::Error::custom(format!(
                    "the key \"{key}\" stands twice in one object; keep one of them"
                )));
            }
            let v = map.next_value_seed(Keys)?;
            out.insert(key, v);
        }
        Ok(Value::Object(out))
    }
}

#[cfg(test)]
mod tests {
    use super::value;

    #[test]
    fn reads_what_serde_json_reads_and_refuses_a_key_that_stands_twice() {
        let text = r#"{"a": [1, -2, 3.5, null, true, {"b": "x\u00e9"}], "c": {}, "d": 18446744073709551615}"#;
        assert_eq!(value(text.as_bytes()).unwrap(), serde_json::from_str::<serde_json::Value>(text).unwrap());
        assert_eq!(value(b"\xef\xbb\xbf[1]").unwrap(), serde_json::json!([1]));
        let twice = value(br#"{"a": {"size": 1, "size": 2}}"#).unwrap_err();
        assert!(twice.contains("\"size\" stands twice"), "{twice}");
        assert!(value(br#"{"a": {"size": 1}, "b": {"size": 1}}"#).is_ok());
        let deep = "[".repeat(100_000);
        assert!(value(deep.as_bytes()).is_err());
    }
}
