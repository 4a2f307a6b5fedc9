//! References: the ids inside a value, found by their types and not by the names of fields.
//!
//! Each reference comes with the pointer (RFC 6901) of its number in the value's JSON. Ids as keys of maps are
//! not found: JSON holds these as names of fields, where nothing could be put in their place.

use crate::ids::ThingKind;
use crate::leaves::{Leaf, Token, visit};
use serde::Serialize;

/// Id inside a value.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Reference {
    /// Pointer (RFC 6901) of the number in the value's JSON.
    pub pointer: String,
    /// Kind of the thing that the number means.
    pub kind: ThingKind,
    /// The number; 0 means nothing.
    pub id: u32,
}

/// References in a value, in the order of its JSON. Those that mean nothing (0) are left out.
pub fn references<T: Serialize + ?Sized>(value: &T) -> Vec<Reference> {
    let escaped = |token: &Token| match token {
        Token::Field(name) => format!("/{}", name.replace('~', "~0").replace('/', "~1")),
        Token::Key(name) => format!("/{}", name.replace('~', "~0").replace('/', "~1")),
        Token::Index(i) => format!("/{i}"),
    };
    let mut found = Vec::new();
    visit(value, &mut |at, leaf| {
        if let Leaf::Id(kind, id @ 1..) = leaf {
            found.push(Reference { pointer: at.iter().map(escaped).collect(), kind, id });
        }
    });
    found
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::carrier::Carrier;
    use crate::ids::{ImageId, MoveId, PerformanceId, PerformerId, PieceId, SetupId};
    use crate::list::List;
    use serde::Serialize;
    use serde_json::{Value, json};
    use std::collections::BTreeMap;

    #[derive(Serialize)]
    #[serde(tag = "kind", rename_all = "snake_case")]
    enum Tagged {
        Card { image: ImageId, toward: Option<SetupId> },
        Follow(Inner),
    }

    #[derive(Serialize)]
    enum Plain {
        One(PieceId),
        Two(SetupId, u32),
        Named { by: MoveId },
    }

    #[derive(Clone, Serialize)]
    struct Inner {
        who: PerformerId,
    }

    #[derive(Serialize)]
    struct Everything {
        tagged: Vec<Tagged>,
        plain: [Plain; 3],
        #[serde(flatten)]
        inner: Inner,
        list: List<Inner>,
        map: BTreeMap<String, Option<PerformanceId>>,
        carried: Option<Carrier>,
        count: u32,
    }

    #[test]
    fn ids_are_found_wherever_they_are_with_the_pointer_to_their_number() {
        let value = Everything {
            tagged: vec![
                Tagged::Card { image: ImageId(7), toward: None },
                Tagged::Card { image: ImageId(0), toward: Some(SetupId(2)) },
                Tagged::Follow(Inner { who: PerformerId(3) }),
            ],
            plain: [Plain::One(PieceId(4)), Plain::Two(SetupId(5), 99), Plain::Named { by: MoveId(6) }],
            inner: Inner { who: PerformerId(8) },
            list: [Inner { who: PerformerId(9) }].into_iter().collect(),
            map: BTreeMap::from([("a/b~c".into(), Some(PerformanceId(10))), ("none".into(), None)]),
            carried: Some(Carrier::Setup { id: SetupId(11), moved: Some(MoveId(12)) }),
            count: 13,
        };
        let found = references(&value);
        let json = serde_json::to_value(&value).unwrap();
        for reference in &found {
            assert_eq!(json.pointer(&reference.pointer), Some(&json!(reference.id)), "{reference:?}");
        }
        let mut all: Vec<(ThingKind, u32)> = found.iter().map(|r| (r.kind, r.id)).collect();
        all.sort_by_key(|(_, id)| *id);
        let kinds = [
            ThingKind::Setup,
            ThingKind::Performer,
            ThingKind::Piece,
            ThingKind::Setup,
            ThingKind::Move,
            ThingKind::Image,
            ThingKind::Performer,
            ThingKind::Performer,
            ThingKind::Performance,
            ThingKind::Setup,
            ThingKind::Move,
        ];
        assert_eq!(all, kinds.into_iter().zip(2..=12).collect::<Vec<_>>());
    }

    #[test]
    fn an_id_is_written_as_a_number_and_nothing_else_is_taken_for_one() {
        assert_eq!(serde_json::to_value(PieceId(4)).unwrap(), json!(4));
        assert_eq!(references(&json!({"piece": 4, "all": [1, 2]})), []);
        assert_eq!(references(&Value::Null), []);
    }
}
