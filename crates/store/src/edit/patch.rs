//! Operations by path on JSON, as in JSON Patch (RFC 6902) with pointers (RFC 6901) but for one
//! thing: **in a list of things a token is the thing's own number**, never its place, so that a
//! path still means the same when somebody else has added or removed a neighbour.
//!
//! A list is one of things when all its members are objects that carry one of [`NAMES`]. Other
//! lists are short vectors: their members go by place, and there are never more or fewer of them
//! unless the whole is replaced.

use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::BTreeMap;
use ts_rs::TS;

/// Fields that identify members of a list; the first one that members have counts.
const NAMES: [&str; 3] = ["id", "performance", "number"];

/// Operation of a patch.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case", tag = "op")]
pub enum Op {
    /// Puts a new thing into a list, or a field into an object.
    Add {
        /// Path; a new thing is called `new:1` until the answer names it.
        path: String,
        /// New value.
        #[ts(type = "unknown")]
        value: Value,
        /// In a list: the member that it comes before; at the end where missing.
        #[serde(default)]
        #[ts(optional)]
        before: Option<String>,
    },
    /// Takes a thing or a field away.
    Remove {
        /// Path of the thing.
        path: String,
    },
    /// Puts a value in the place of what is there.
    Replace {
        /// Path of the value.
        path: String,
        /// New value.
        #[ts(type = "unknown")]
        value: Value,
    },
    /// Puts a thing elsewhere in its list.
    Move {
        /// Path of the thing that moves.
        path: String,
        /// The member that it comes before; at the end where missing.
        #[serde(default)]
        #[ts(optional)]
        before: Option<String>,
    },
    /// Refuses the whole edit where something else is there; numbers compare by value.
    Test {
        /// Path of the value.
        path: String,
        /// Value that must be there.
        #[ts(type = "unknown")]
        value: Value,
    },
}

impl Op {
    /// Path that the operation writes to or tests.
    pub fn path(&self) -> &str {
        match self {
            Op::Add { path, .. }
            | Op::Remove { path }
            | Op::Replace { path, .. }
            | Op::Move { path, .. }
            | Op::Test { path, .. } => path,
        }
    }
}

/// The numbers that new things were given, by what they were called (`new:1`).
pub type Names = BTreeMap<String, u32>;

/// Why an operation cannot be done, as a sentence.
pub type Refusal = String;

/// The tokens of a pointer, names of new things already replaced by their numbers.
pub fn tokens(path: &str, names: &Names) -> Result<Vec<String>, Refusal> {
    let Some(rest) = path.strip_prefix('/') else {
        return Err(format!("the path \"{path}\" must begin with a slash"));
    };
    let token = |t: &str| {
        let plain = t.replace("~1", "/").replace("~0", "~");
        names.get(&plain).map_or(plain, u32::to_string)
    };
    Ok(rest.split('/').map(token).collect())
}

/// Field that identifies the members of a list; none for a vector.
fn name_of(list: &[Value]) -> Option<&'static str> {
    NAMES.into_iter().find(|name| list.iter().all(|m| m.get(name).is_some()))
}

/// Index of a member in a list of things.
fn place_of(list: &[Value], name: &str, token: &str) -> Option<usize> {
    let number: u64 = token.parse().ok()?;
    list.iter().position(|m| m[name].as_u64() == Some(number))
}

/// Index for a token in a list of things or numbers.
fn place_in(list: &[Value], token: &str) -> Option<usize> {
    match name_of(list) {
        Some(name) => place_of(list, name, token),
        None => token.parse().ok(),
    }
}

fn missing(token: &str, path: &str) -> Refusal {
    format!("there is no {token} at {path}; it may have been removed")
}

/// Value at a path of tokens.
pub fn find<'a>(value: &'a Value, tokens: &[String]) -> Option<&'a Value> {
    tokens.iter().try_fold(value, |at, token| match at {
        Value::Object(fields) => fields.get(token),
        Value::Array(list) => list.get(place_in(list, token)?),
        _ => None,
    })
}

fn find_mut<'a>(value: &'a mut Value, tokens: &[String], path: &str) -> Result<&'a mut Value, Refusal> {
    tokens.iter().try_fold(value, |at, token| {
        let found = match at {
            Value::Object(fields) => fields.get_mut(token),
            Value::Array(list) => place_in(list, token).and_then(|place| list.get_mut(place)),
            _ => None,
        };
        found.ok_or_else(|| missing(token, path))
    })
}

/// Does an operation on a thing; `tokens` are those of its path within the thing. A new member of
/// a list is given a number, which goes into `names`.
pub fn apply(thing: &mut Value, tokens: &[String], op: &Op, names: &mut Names) -> Result<(), Refusal> {
    let path = op.path();
    let Some((last, above)) = tokens.split_last() else {
        return Err(format!("{path} names a whole thing; name a field of it"));
    };
    if let Op::Test { value, .. } = op {
        let there = find(thing, tokens);
        return match there {
            Some(there) if same(there, value) => Ok(()),
            there => {
                let there = there.map_or("nothing".into(), Value::to_string);
                Err(format!("{path} is {there}, not {value}; somebody else changed it"))
            }
        };
    }
    let parent = find_mut(thing, above, path)?;
    match parent {
        Value::Object(fields) => match op {
            Op::Add { value, .. } => {
                fields.insert(last.clone(), value.clone());
            }
            Op::Replace { value, .. } => {
                *fields.get_mut(last).ok_or_else(|| missing(last, path))? = value.clone();
            }
            Op::Remove { .. } => {
                fields.remove(last).ok_or_else(|| missing(last, path))?;
            }
            Op::Move { .. } => return Err(format!("{path} is no member of a list; it cannot be moved")),
            Op::Test { .. } => {}
        },
        Value::Array(list) => in_list(list, last, op, names)?,
        _ => return Err(missing(last, path)),
    }
    Ok(())
}

fn in_list(list: &mut Vec<Value>, token: &str, op: &Op, names: &mut Names) -> Result<(), Refusal> {
    let path = op.path();
    // An empty list is one of things as soon as a thing comes into it.
    let named = match op {
        Op::Add { value, .. } if list.is_empty() => {
            Some(NAMES.into_iter().skip(1).find(|n| value.get(n).is_some()).unwrap_or("id"))
        }
        _ => name_of(list),
    };
    let Some(name) = named else {
        let place: Option<usize> = token.parse().ok().filter(|place| *place < list.len());
        return match (op, place) {
            (Op::Replace { value, .. }, Some(place)) => {
                list[place] = value.clone();
                Ok(())
            }
            (Op::Replace { .. }, None) => Err(missing(token, path)),
            _ => Err(format!("{path} is a vector; replace the whole of it, or one of its numbers")),
        };
    };
    let number_of = |token: &str, names: &Names| names.get(token).map_or(token.to_string(), u32::to_string);
    let place_before = |list: &[Value], before: &Option<String>| match before {
        None => Ok(list.len()),
        Some(before) => place_of(list, name, &number_of(before, names)).ok_or_else(|| missing(before, path)),
    };
    match op {
        Op::Add { value, before, .. } => {
            let place = place_before(list, before)?;
            let mut member = value.clone();
            let Value::Object(fields) = &mut member else {
                return Err(format!("what comes into {path} must be an object"));
            };
            if name == "id" {
                let free = list.iter().filter_map(|m| m[name].as_u64()).max().unwrap_or(0) + 1;
                let id = if token.starts_with("new:") { free } else { token.parse().unwrap_or(free) };
                if let (true, Ok(id)) = (token.starts_with("new:"), u32::try_from(id)) {
                    names.insert(token.into(), id);
                }
                fields.insert(name.into(), id.into());
            }
            if fields.get(name).and_then(Value::as_u64).is_none() {
                return Err(format!("what comes into {path} needs a whole number as its {name}"));
            }
            if list.iter().any(|m| m[name] == member[name]) {
                return Err(format!("there is a member with {name} {} in {path} already", member[name]));
            }
            list.insert(place, member);
        }
        Op::Remove { .. } => {
            let place = place_of(list, name, token).ok_or_else(|| missing(token, path))?;
            list.remove(place);
        }
        Op::Replace { value, .. } => {
            let place = place_of(list, name, token).ok_or_else(|| missing(token, path))?;
            let mut member = value.clone();
            if let Value::Object(fields) = &mut member {
                fields.insert(name.into(), list[place][name].clone());
            }
            list[place] = member;
        }
        Op::Move { before, .. } => {
            let place = place_of(list, name, token).ok_or_else(|| missing(token, path))?;
            let member = list.remove(place);
            let to = place_before(list, before);
            list.insert(to.clone().unwrap_or(place), member);
            to?;
        }
        Op::Test { .. } => {}
    }
    Ok(())
}

/// True if two values are equal; numbers compare by value, whole or not.
pub fn same(a: &Value, b: &Value) -> bool {
    match (a, b) {
        (Value::Number(a), Value::Number(b)) => a.as_f64() == b.as_f64(),
        (Value::Array(a), Value::Array(b)) => a.len() == b.len() && a.iter().zip(b).all(|(a, b)| same(a, b)),
        (Value::Object(a), Value::Object(b)) => {
            a.len() == b.len() && a.iter().all(|(k, v)| b.get(k).is_some_and(|w| same(v, w)))
        }
        _ => a == b,
    }
}

/// Fields that are written only where they are not as usual.
const USUAL: [(&str, f64); 1] = [("strength", 1.0)];

/// True if a value says nothing: null, an empty list, or an object of such values.
fn is_empty(value: &Value) -> bool {
    match value {
        Value::Null => true,
        Value::Array(all) => all.is_empty(),
        Value::Object(all) => all.values().all(is_empty),
        _ => false,
    }
}

/// The path of the first thing in `sent` that did not come back the same, where one did not. What
/// comes back beside it (a value that was left to its usual one) is no difference.
pub fn lost(sent: &Value, back: &Value) -> Option<String> {
    match (sent, back) {
        (Value::Object(sent), Value::Object(back)) => sent.iter().find_map(|(key, v)| {
            let inner = match back.get(key) {
                Some(w) => lost(v, w)?,
                // What is empty, and what is as usual, is not written.
                None if is_empty(v)
                    || USUAL.iter().any(|(name, usual)| name == key && same(v, &(*usual).into())) =>
                {
                    return None;
                }
                None => String::new(),
            };
            Some(format!("/{key}{inner}"))
        }),
        (Value::Array(sent), Value::Array(back)) if sent.len() == back.len() => sent
            .iter()
            .zip(back)
            .enumerate()
            .find_map(|(i, (v, w))| lost(v, w).map(|inner| format!("/{i}{inner}"))),
        _ => (!same(sent, back)).then(String::new),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    fn op(json: Value) -> Op {
        serde_json::from_value(json).unwrap()
    }

    fn done(thing: &Value, ops: Value) -> Result<(Value, Names), Refusal> {
        let (mut thing, mut names) = (thing.clone(), Names::new());
        for one in ops.as_array().unwrap() {
            let one = op(one.clone());
            let tokens = tokens(one.path(), &names)?;
            apply(&mut thing, &tokens, &one, &mut names)?;
        }
        Ok((thing, names))
    }

    fn walk() -> Value {
        json!({"name": "conductor", "parts": [
            {"performance": 1, "route": {"waypoints": [{"id": 4, "x": 0.0}, {"id": 8, "x": 1.0}]}},
            {"performance": 3, "route": {"waypoints": []}},
        ], "position": [1.0, 2.0, 3.0]})
    }

    #[test]
    fn a_member_is_meant_by_its_number_wherever_it_stands() {
        let way = "/parts/1/route/waypoints";
        let ops = json!([
            {"op": "add", "path": format!("{way}/new:1"), "value": {"x": 0.5}, "before": "8"},
            {"op": "remove", "path": format!("{way}/4")},
            {"op": "replace", "path": format!("{way}/8/x"), "value": 7},
            {"op": "replace", "path": format!("{way}/new:1/x"), "value": 6},
            {"op": "move", "path": format!("{way}/8"), "before": "new:1"},
            {"op": "add", "path": "/parts/3/route/waypoints/new:2", "value": {"x": 9}},
        ]);
        let (thing, names) = done(&walk(), ops).unwrap();
        assert_eq!(names, Names::from([("new:1".into(), 9), ("new:2".into(), 1)]));
        assert_eq!(thing["parts"][0]["route"]["waypoints"], json!([{"id": 8, "x": 7}, {"id": 9, "x": 6}]));
        assert_eq!(thing["parts"][1]["route"]["waypoints"], json!([{"id": 1, "x": 9}]));
    }

    #[test]
    fn vectors_go_by_place_and_keep_their_length() {
        let (thing, _) =
            done(&walk(), json!([{"op": "replace", "path": "/position/2", "value": 9}])).unwrap();
        assert_eq!(thing["position"], json!([1.0, 2.0, 9]));
        for bad in [
            json!({"op": "remove", "path": "/position/2"}),
            json!({"op": "add", "path": "/position/0", "value": 1}),
            json!({"op": "replace", "path": "/position/3", "value": 1}),
        ] {
            assert!(done(&walk(), json!([bad])).is_err(), "{bad}");
        }
    }

    #[test]
    fn what_is_not_there_is_named_and_nothing_is_taken_for_something_else() {
        for bad in [
            json!({"op": "replace", "path": "/parts/2/route", "value": 1}),
            json!({"op": "replace", "path": "/parts/1/route/waypoints/5/x", "value": 1}),
            json!({"op": "replace", "path": "/colour", "value": 1}),
            json!({"op": "move", "path": "/parts/1/route/waypoints/4", "before": "77"}),
            json!({"op": "add", "path": "/parts/1/route/waypoints/8", "value": {"x": 1}}),
            json!({"op": "replace", "path": "name", "value": 1}),
        ] {
            assert!(done(&walk(), json!([bad])).is_err(), "{bad}");
        }
        let refused = done(&walk(), json!([{"op": "remove", "path": "/parts/2"}])).unwrap_err();
        assert!(refused.contains("no 2 at /parts/2"), "{refused}");
    }

    #[test]
    fn tests_compare_numbers_by_value() {
        let test = |value: Value| done(&walk(), json!([{"op": "test", "path": "/position", "value": value}]));
        assert!(test(json!([1, 2, 3])).is_ok());
        assert!(test(json!([1, 2, 4])).unwrap_err().contains("somebody else changed it"));
    }

    #[test]
    fn what_does_not_come_back_is_found_by_its_path() {
        let back = json!({"a": 1.0, "b": [{"c": 2}], "usual": true});
        assert_eq!(lost(&json!({"a": 1, "b": [{"c": 2.0}], "none": null, "empty": []}), &back), None);
        assert_eq!(lost(&json!({"b": [{"c": 2, "d": 3}]}), &back), Some("/b/0/d".into()));
        assert_eq!(lost(&json!({"a": "1"}), &back), Some("/a".into()));
    }
}
