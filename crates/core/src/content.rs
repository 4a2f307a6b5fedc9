//! A number for what a value says: the same as long as that is the same, today and in a later version.
//!
//! The hash is made field by field and not over a text, so that the order of fields does not count, and a field
//! that comes in a later version changes nothing as long as it says nothing: none, no, 0, an empty text and an
//! empty list are left out. An option that holds 0 says something. Two values of one type that differ have
//! different numbers but for one case in 2^64.
//!
//! Method: Fowler, Noll and Vo's hash (FNV-1a, 64 bits) of each leaf with its path, mixed and summed.

use crate::leaves::{Leaf, Token, visit};
use serde::Serialize;

/// Hash of what a value says.
pub fn content<T: Serialize + ?Sized>(value: &T) -> u64 {
    let mut sum = 0u64;
    visit(value, &mut |at, leaf| {
        if says_something(leaf) {
            let path = at.iter().fold(BASIS, step);
            sum = sum.wrapping_add(mixed(leaf_hash(path, leaf)));
        }
    });
    sum
}

/// Several hashes as one; their order counts.
pub fn chained(parts: impl IntoIterator<Item = u64>) -> u64 {
    parts.into_iter().fold(BASIS, |hash, part| mixed(fnv(hash, &part.to_le_bytes())))
}

/// Hash of nothing, from which FNV-1a begins.
pub const BASIS: u64 = 0xcbf2_9ce4_8422_2325;

/// FNV-1a of more bytes, after those that were hashed before.
pub fn fnv(hash: u64, bytes: &[u8]) -> u64 {
    bytes.iter().fold(hash, |h, b| (h ^ u64::from(*b)).wrapping_mul(0x100_0000_01b3))
}

/// Spreads a change of any bit over all of them, so that sums of hashes do not meet (the finalizer of
/// Steele, Lea and Flood's SplitMix64, OOPSLA 2014; constants from memory).
fn mixed(mut hash: u64) -> u64 {
    hash = (hash ^ (hash >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    hash = (hash ^ (hash >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    hash ^ (hash >> 31)
}

fn says_something(leaf: Leaf) -> bool {
    match leaf {
        Leaf::Id(_, number) => number != 0,
        Leaf::Number(number) => number != 0.0,
        Leaf::Text(text) => !text.is_empty(),
        Leaf::Flag(flag) => flag,
        Leaf::Length(length) => length > 0,
        Leaf::Some | Leaf::Variant(_) => true,
    }
}

fn step(hash: u64, token: &Token) -> u64 {
    match token {
        Token::Field(name) => fnv(fnv(hash, b"/"), name.as_bytes()),
        Token::Key(name) => fnv(fnv(hash, b"/"), name.as_bytes()),
        Token::Index(i) => fnv(fnv(hash, b"#"), &(*i as u64).to_le_bytes()),
    }
}

fn leaf_hash(path: u64, leaf: Leaf) -> u64 {
    match leaf {
        Leaf::Id(_, number) => fnv(fnv(path, b"n"), &f64::from(number).to_le_bytes()),
        Leaf::Number(number) => fnv(fnv(path, b"n"), &number.to_le_bytes()),
        Leaf::Text(text) => fnv(fnv(path, b"t"), text.as_bytes()),
        Leaf::Flag(_) => fnv(path, b"y"),
        Leaf::Length(length) => fnv(fnv(path, b"l"), &(length as u64).to_le_bytes()),
        Leaf::Some => fnv(path, b"s"),
        Leaf::Variant(name) => fnv(fnv(path, b"v"), name.as_bytes()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ids::PieceId;
    use proptest::prelude::*;
    use serde::Serialize;
    use serde_json::{Value, json};

    /// Test vectors of draft-eastlake-fnv, appendix C (from memory).
    #[test]
    fn the_hash_is_the_published_one() {
        let published =
            [("", 0xcbf2_9ce4_8422_2325), ("a", 0xaf63_dc4c_8601_ec8c), ("foobar", 0x8594_4171_f739_67e8)];
        for (text, hash) in published {
            assert_eq!(fnv(BASIS, text.as_bytes()), hash, "{text}");
        }
    }

    #[derive(Serialize)]
    struct Old {
        name: &'static str,
        piece: PieceId,
        at: [f64; 2],
    }

    #[derive(Serialize)]
    struct New {
        at: [f64; 2],
        hidden: bool,
        note: &'static str,
        more: Vec<f64>,
        other: Option<u32>,
        piece: PieceId,
        name: &'static str,
    }

    #[test]
    fn a_field_that_says_nothing_changes_nothing_and_every_other_does() {
        let old = Old { name: "lamp", piece: PieceId(4), at: [1.0, 0.0] };
        let new = || New {
            at: [1.0, 0.0],
            hidden: false,
            note: "",
            more: Vec::new(),
            other: None,
            piece: PieceId(4),
            name: "lamp",
        };
        assert_eq!(content(&old), content(&new()));
        for other in [
            New { hidden: true, ..new() },
            New { note: "x", ..new() },
            New { more: vec![0.0], ..new() },
            New { other: Some(1), ..new() },
            New { other: Some(0), ..new() },
            New { piece: PieceId(5), ..new() },
            New { at: [0.0, 1.0], ..new() },
        ] {
            assert_ne!(content(&old), content(&other));
        }
    }

    #[derive(Serialize)]
    enum Every {
        Frames(u32),
        Seconds(f64),
        Both { frames: u32 },
    }

    #[test]
    fn variants_and_entries_that_hold_nothing_but_0_differ() {
        let all = [Every::Frames(0), Every::Seconds(0.0), Every::Both { frames: 0 }].map(|e| content(&e));
        assert!(all[0] != all[1] && all[1] != all[2] && all[0] != all[2]);
        assert_ne!(content(&json!({"pan": 0})), content(&json!({})));
    }

    proptest! {
        #[test]
        fn lists_differ_where_a_member_does(list in prop::collection::vec(-9i64..9, 1..9), at in 0usize..9, by in 1i64..5) {
            let at = at % list.len();
            let mut other = list.clone();
            other[at] += by;
            let json = |list: &[i64]| -> Value { json!({ "list": list }) };
            prop_assert_eq!(content(&json(&list)), content(&json(&list.clone())));
            prop_assert_ne!(content(&json(&list)), content(&json(&other)));
            other[at] -= by;
            other.push(0);
            prop_assert_ne!(content(&json(&list)), content(&json(&other)));
        }
    }
}
