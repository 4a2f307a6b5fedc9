//! A described thing from the words of a command line: `smooth:head.passes=100,lens.sigma_s=0.2`.

use rovnek_core::params::{Case, Holds, Param, within};
use rovnek_core::treatments::{Described, Treatment, TreatmentKind};
use serde_json::{Value, json};

/// A treatment by its words. Every kind is taken, and whatever it says of itself can be set.
pub fn treatment(words: &str) -> Result<Treatment, String> {
    let (name, settings) = words.split_once(':').unwrap_or((words, ""));
    let all = TreatmentKind::all();
    let Some(kind) = all.iter().find(|d| d.name == name) else {
        let known: Vec<&str> = all.iter().map(|d| d.name).collect();
        return Err(format!("there is no treatment \"{name}\"; there are {}", known.join(", ")));
    };
    let usual = TreatmentKind::named(name).expect("it was found by its name");
    let mut value = serde_json::to_value(Treatment::from(usual)).expect("parameters are plain data");
    for setting in settings.split(',').filter(|s| !s.is_empty()) {
        let (path, typed) =
            setting.split_once('=').ok_or_else(|| format!("\"{setting}\" sets nothing; {}", ways(kind)))?;
        let path: Vec<&str> = path.split('.').collect();
        set(&kind.params, &mut value, &path, typed).map_err(|e| format!("{e}; {}", ways(kind)))?;
    }
    let treatment: Treatment = serde_json::from_value(value).map_err(|e| format!("{e}; {}", ways(kind)))?;
    treatment.check().map_err(|e| e.sentence)?;
    Ok(treatment)
}

/// Puts a value at a path; a way of several is chosen by its name, or by what is set of it alone.
fn set(params: &[Param], value: &mut Value, path: &[&str], typed: &str) -> Result<(), String> {
    let Some((first, rest)) = path.split_first() else { return Err("a setting needs a name".into()) };
    let params = flat(params);
    let param =
        params.iter().find(|p| p.path == *first).ok_or_else(|| format!("\"{first}\" is nothing of it"))?;
    match (&param.holds, rest) {
        (Holds::Number { .. }, []) => {
            let number: f64 = typed.parse().map_err(|_| format!("{first} is \"{typed}\", not a number"))?;
            within(param, number).map_err(|e| e.sentence)?;
            let whole = number.fract() == 0.0 && matches!(param.holds, Holds::Number { whole: true, .. });
            put(value, first, if whole { json!(number as i64) } else { json!(number) });
        }
        (Holds::Switch, []) => {
            put(value, first, json!(typed.parse::<bool>().map_err(|_| format!("{first} is true or false"))?));
        }
        (Holds::Choice { .. }, []) => put(value, first, json!(typed)),
        (Holds::Variant { tag, cases }, [inner, ..]) => {
            let now = tag.map(|tag| value[first][tag].clone());
            let by_name = (Some(*inner) == *tag).then(|| cases.iter().find(|c| c.name == typed));
            let has = |c: &&Case| flat(&c.params).iter().any(|p| p.path == *inner);
            // The way that it is already, where that has such a thing.
            let same = cases.iter().filter(has).find(|c| now.as_ref().is_some_and(|now| *now == c.name));
            let of_same = || same.or_else(|| cases.iter().find(has));
            let case = by_name
                .unwrap_or_else(of_same)
                .ok_or_else(|| format!("\"{inner}\" is nothing of {first}"))?;
            match tag {
                Some(tag) if value[first][tag] != case.name => value[first] = start_of(tag, case),
                Some(_) => {}
                // A way whose own name is its only field.
                None => value[first] = json!({}),
            }
            if by_name.is_none() {
                set(&case.params, &mut value[first], rest, typed)?;
            }
        }
        // A member of a list by its number; the one behind the last is new.
        (Holds::List { params, .. }, [index, rest @ ..]) if !rest.is_empty() => {
            let index: usize = index
                .parse()
                .map_err(|_| format!("\"{index}\" is no number of a member of {first}, from 0 on"))?;
            if !value[first].is_array() {
                put(value, first, json!([]));
            }
            let list = value[first].as_array_mut().expect("it was just made one");
            if index > list.len() {
                return Err(format!(
                    "{first} has {} members; the next one is {first}.{}",
                    list.len(),
                    list.len()
                ));
            }
            if index == list.len() {
                list.push(new_member(params));
            }
            set(params, &mut list[index], rest, typed)?;
        }
        _ => return Err(format!("\"{}\" cannot be set like this", path.join("."))),
    }
    Ok(())
}

/// Parameters, those of rows one by one.
fn flat(params: &[Param]) -> Vec<&Param> {
    let mut all = Vec::new();
    for param in params {
        match &param.holds {
            Holds::Row { params } => all.extend(params),
            _ => all.push(param),
        }
    }
    all
}

/// Puts a value at a path of tokens with slashes; lists grow by what is put behind their end.
fn put(value: &mut Value, path: &str, what: Value) {
    let Some((first, rest)) = path.split_once('/') else {
        match (value, path.parse::<usize>()) {
            (Value::Array(list), Ok(i)) if i < list.len() => list[i] = what,
            (Value::Array(list), _) => list.push(what),
            (value, _) => value[path] = what,
        }
        return;
    };
    if value[first].is_null() {
        value[first] = if rest.starts_with(|c: char| c.is_ascii_digit()) { json!([]) } else { json!({}) };
    }
    put(&mut value[first], rest, what);
}

/// A way of several as it is to begin with.
fn start_of(tag: &str, case: &Case) -> Value {
    let mut value = json!({ tag: case.name });
    put_starts(&mut value, &case.params);
    value
}

/// A member of a list as it is to begin with.
fn new_member(params: &[Param]) -> Value {
    let mut value = json!({});
    put_starts(&mut value, params);
    value
}

fn put_starts(value: &mut Value, params: &[Param]) {
    for param in flat(params) {
        match &param.holds {
            Holds::Number { start, whole: true, .. } => put(value, param.path, json!(*start as i64)),
            Holds::Number { start, .. } => put(value, param.path, json!(start)),
            Holds::Curve { start, .. } => {
                let key = |(at, is): &(f64, f64)| json!({"time_s": at, "value": is});
                put(value, param.path, start.iter().map(key).collect());
            }
            _ => {}
        }
    }
}

/// What can be set of a kind, for a sentence.
fn ways(kind: &Described) -> String {
    let mut all = Vec::new();
    list(&kind.params, "", &mut all);
    format!("{} takes {}", kind.name, all.join(", "))
}

fn list(params: &[Param], before: &str, all: &mut Vec<String>) {
    for param in params {
        let path = format!("{before}{}", param.path);
        match &param.holds {
            Holds::Number { min, max, .. } => all.push(format!("{path}={min}…{max}{}", param.unit)),
            Holds::Row { params } => list(params, before, all),
            Holds::Who { .. } | Holds::Piece { .. } | Holds::Recorded { .. } | Holds::Curve { .. } => {}
            // Of the first; the command line sets no others.
            Holds::List { params, .. } => list(params, &format!("{path}.0."), all),
            Holds::Switch => all.push(format!("{path}=true|false")),
            Holds::Choice { options } => {
                let words: Vec<&str> = options.iter().map(|(word, _)| *word).collect();
                all.push(format!("{path}={}", words.join("|")));
            }
            Holds::Variant { cases, .. } => {
                cases.iter().for_each(|case| list(&case.params, &format!("{path}."), all));
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rovnek_core::treatments::{Interval, KeyEvery, ShakeBy, Smooth, SmoothBy};

    #[test]
    fn any_treatment_is_had_by_its_words() {
        let smooth = treatment("smooth:head.passes=100,lens.sigma_s=0.2").unwrap();
        let wanted = Smooth {
            machine: None,
            head: Some(SmoothBy::Binomial { passes: 100 }),
            lens: Some(SmoothBy::Gaussian { sigma_s: 0.2 }),
        };
        assert_eq!(smooth.kind, TreatmentKind::Smooth(wanted));
        assert_eq!(treatment("keys").unwrap().kind, TreatmentKind::Keys(KeyEvery::default()));
        let keys = KeyEvery { every: Interval::Frames(12) };
        assert_eq!(treatment("keys:every.frames=12").unwrap().kind, TreatmentKind::Keys(keys));
        assert!(matches!(
            treatment("steady:by=fixed_lag,position=0.4").unwrap().kind,
            TreatmentKind::Steady(_)
        ));
        let TreatmentKind::Shake(shake) = treatment("shake:way.by=hit,way.at_s=2.5,seed=4").unwrap().kind
        else {
            panic!("it is a shake")
        };
        let ShakeBy::Hit { at_s, amounts, .. } = shake.way else { panic!("by a hit: {shake:?}") };
        assert_eq!((shake.seed, at_s, amounts.position_cm), (4, 2.5, [0.4; 3]));
        // Members of lists, spelled as a refusal spells them.
        let said = treatment("inner_cut:nothing=1").unwrap_err();
        assert!(said.contains("inner_cut takes jumps.0.at_s=0…36000s"), "{said}");
        let TreatmentKind::InnerCut(cut) =
            treatment("inner_cut:jumps.0.at_s=2,jumps.1.at_s=4.5").unwrap().kind
        else {
            panic!("it is a cut")
        };
        assert_eq!(cut.jumps.iter().map(|j| j.at_s).collect::<Vec<_>>(), [2.0, 4.5]);
        let words =
            "correction:keys.0.at_s=1,keys.0.move_cm/0=5,keys.1.at_s=3,keys.1.turn_deg/1=-2,blend_s=0.5";
        let TreatmentKind::Correction(correction) = treatment(words).unwrap().kind else { panic!("{words}") };
        assert_eq!(
            (correction.keys[0].move_cm, correction.keys[1].turn_deg),
            ([5.0, 0.0, 0.0], [0.0, -2.0, 0.0])
        );
        assert!(matches!(treatment("aim:turns.0.over_s=2").unwrap().kind, TreatmentKind::Aim(_)));
        assert!(treatment("inner_cut:jumps.4.at_s=2").unwrap_err().contains("the next one is jumps.1"));
        let low = treatment("smooth:head.degree=4,head.window_s=0.5").unwrap().kind;
        let by = SmoothBy::Polynomial { window_s: 0.5, degree: 4 };
        assert_eq!(low, TreatmentKind::Smooth(Smooth { head: Some(by), ..Smooth::default() }));
    }

    #[test]
    fn what_cannot_be_says_what_can() {
        for (words, why) in [
            (
                "polish",
                "there are trim, retime, inner_cut, smooth, steady, drift, keys, aim, focus, zoom, counter_zoom, correction, shake",
            ),
            ("smooth:head.passes=401", "give 1 to 400"),
            ("smooth:head.passes=1.5", "a whole number"),
            ("smooth:nose.passes=4", "\"nose\" is nothing of it; smooth takes machine.passes=1…400"),
            ("smooth:head.strength=4", "\"strength\" is nothing of head"),
            ("smooth:head.passes", "sets nothing"),
            ("smooth:head.sigma_s=wide", "not a number"),
            ("steady:by=magic", "steady takes by=one_euro|fixed_lag"),
            ("steady:position=2", "give 0 to 1"),
            ("shake:way.by=wind", "\"by\" is nothing of way"),
            ("shake:way.rotation_deg/1=90", "give 0 to 45 °"),
        ] {
            let said = treatment(words).unwrap_err();
            assert!(said.contains(why), "{words}: {said}");
        }
    }
}
