//! Leaves of a value: everything in it that has no parts of its own, each with its path. A serializer that
//! writes nothing visits them, so every type that can be written can be visited, through options, lists, maps,
//! tagged enums and flattened fields.
//!
//! Serde tells a serializer the name of a newtype, which is how ids ([`crate::ids`]) are known from numbers.

use crate::ids::ThingKind;
use serde::ser::{self, Serialize, Serializer};

/// Step of a path to a leaf.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(crate) enum Token {
    /// Field of a struct, or variant of an enum.
    Field(&'static str),
    /// Member of a list.
    Index(usize),
    /// Entry of a map.
    Key(String),
}

/// Value that has no parts.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Leaf<'a> {
    /// Id of a thing.
    Id(ThingKind, u32),
    /// Number; whole ones are exact up to 2^53.
    Number(f64),
    /// Text, or the name of a variant.
    Text(&'a str),
    /// Yes or no.
    Flag(bool),
    /// Number of members of a list or entries of a map, at the path of the list or map.
    Length(usize),
    /// An option that holds something, whatever that is; what it holds follows.
    Some,
    /// Name of an enum's variant that holds something; what it holds follows.
    Variant(&'static str),
}

/// Visits every leaf of a value, each with its path. Options that hold nothing have no leaf.
pub(crate) fn visit<T: Serialize + ?Sized>(value: &T, leaf: &mut dyn FnMut(&[Token], Leaf)) {
    let mut walker = Walker { at: Vec::new(), id: None, leaf };
    value.serialize(&mut walker).expect("nothing that is kept refuses to be written");
}

/// Serializer that writes nothing and shows leaves.
struct Walker<'a> {
    at: Vec<Token>,
    /// Kind of the id whose number comes next.
    id: Option<ThingKind>,
    leaf: &'a mut dyn FnMut(&[Token], Leaf),
}

type Done = Result<(), Error>;
type Error = serde::de::value::Error;

impl Walker<'_> {
    fn visit<T: Serialize + ?Sized>(&mut self, token: Token, value: &T) -> Done {
        self.at.push(token);
        value.serialize(&mut *self)?;
        self.at.pop();
        Ok(())
    }

    fn leaf(&mut self, leaf: Leaf) -> Done {
        self.id = None;
        (self.leaf)(&self.at, leaf);
        Ok(())
    }

    fn number(&mut self, number: f64) -> Done {
        let id = self.id.filter(|_| (0.0..=f64::from(u32::MAX)).contains(&number));
        self.leaf(id.map_or(Leaf::Number(number), |kind| Leaf::Id(kind, number as u32)))
    }

    fn nothing(&mut self) -> Done {
        self.id = None;
        Ok(())
    }
}

/// Members of a list, entries of a map or fields of a struct, each visited under its token.
struct Members<'a, 'w> {
    within: &'a mut Walker<'w>,
    next: usize,
    key: String,
    /// An enum's variant adds a token of its own.
    variant: bool,
}

impl<'w> Walker<'w> {
    fn members(&mut self, variant: Option<&'static str>) -> Result<Members<'_, 'w>, Error> {
        variant.map_or(Ok(()), |name| self.leaf(Leaf::Variant(name)))?;
        self.at.extend(variant.map(Token::Field));
        Ok(Members { within: self, next: 0, key: String::new(), variant: variant.is_some() })
    }
}

impl Members<'_, '_> {
    fn member<T: Serialize + ?Sized>(&mut self, value: &T) -> Done {
        self.next += 1;
        self.within.visit(Token::Index(self.next - 1), value)
    }

    fn end(self) -> Done {
        if self.next > 0 {
            self.within.leaf(Leaf::Length(self.next))?;
        }
        if self.variant {
            self.within.at.pop();
        }
        Ok(())
    }
}

macro_rules! numbers {
    ($($name:ident: $Type:ty),*) => {
        $(fn $name(self, number: $Type) -> Done {
            self.number(number as f64)
        })*
    };
}

impl<'a, 'w> Serializer for &'a mut Walker<'w> {
    type Ok = ();
    type Error = Error;
    type SerializeSeq = Members<'a, 'w>;
    type SerializeTuple = Members<'a, 'w>;
    type SerializeTupleStruct = Members<'a, 'w>;
    type SerializeTupleVariant = Members<'a, 'w>;
    type SerializeMap = Members<'a, 'w>;
    type SerializeStruct = Members<'a, 'w>;
    type SerializeStructVariant = Members<'a, 'w>;

    numbers!(serialize_u8: u8, serialize_u16: u16, serialize_u32: u32, serialize_u64: u64, serialize_i8: i8,
        serialize_i16: i16, serialize_i32: i32, serialize_i64: i64, serialize_f32: f32, serialize_f64: f64);

    fn serialize_bool(self, flag: bool) -> Done {
        self.leaf(Leaf::Flag(flag))
    }
    fn serialize_char(self, letter: char) -> Done {
        self.leaf(Leaf::Text(letter.encode_utf8(&mut [0; 4])))
    }
    fn serialize_str(self, text: &str) -> Done {
        self.leaf(Leaf::Text(text))
    }
    fn serialize_bytes(self, bytes: &[u8]) -> Done {
        bytes.iter().enumerate().try_for_each(|(i, byte)| self.visit(Token::Index(i), byte))
    }
    fn serialize_unit_struct(self, _: &'static str) -> Done {
        self.nothing()
    }
    fn serialize_none(self) -> Done {
        self.nothing()
    }
    fn serialize_some<T: Serialize + ?Sized>(self, value: &T) -> Done {
        (self.leaf)(&self.at, Leaf::Some);
        value.serialize(self)
    }
    fn serialize_unit(self) -> Done {
        self.nothing()
    }
    fn serialize_unit_variant(self, _: &'static str, _: u32, variant: &'static str) -> Done {
        self.leaf(Leaf::Text(variant))
    }
    fn serialize_newtype_struct<T: Serialize + ?Sized>(self, name: &'static str, value: &T) -> Done {
        self.id = ThingKind::of_type(name);
        value.serialize(self)
    }
    fn serialize_newtype_variant<T: Serialize + ?Sized>(
        self,
        _: &'static str,
        _: u32,
        variant: &'static str,
        value: &T,
    ) -> Done {
        self.leaf(Leaf::Variant(variant))?;
        self.visit(Token::Field(variant), value)
    }
    fn serialize_seq(self, _: Option<usize>) -> Result<Members<'a, 'w>, Error> {
        self.members(None)
    }
    fn serialize_tuple(self, _: usize) -> Result<Members<'a, 'w>, Error> {
        self.members(None)
    }
    fn serialize_tuple_struct(self, _: &'static str, _: usize) -> Result<Members<'a, 'w>, Error> {
        self.members(None)
    }
    fn serialize_tuple_variant(
        self,
        _: &'static str,
        _: u32,
        variant: &'static str,
        _: usize,
    ) -> Result<Members<'a, 'w>, Error> {
        self.members(Some(variant))
    }
    fn serialize_map(self, entries: Option<usize>) -> Result<Members<'a, 'w>, Error> {
        // A flattened struct comes as a map of unknown length: its fields are no entries.
        entries.map_or(Ok(()), |count| self.leaf(Leaf::Length(count)))?;
        self.members(None)
    }
    fn serialize_struct(self, _: &'static str, _: usize) -> Result<Members<'a, 'w>, Error> {
        self.members(None)
    }
    fn serialize_struct_variant(
        self,
        _: &'static str,
        _: u32,
        variant: &'static str,
        _: usize,
    ) -> Result<Members<'a, 'w>, Error> {
        self.members(Some(variant))
    }
}

macro_rules! lists {
    ($($Trait:ident, $name:ident;)*) => {
        $(impl ser::$Trait for Members<'_, '_> {
            type Ok = ();
            type Error = Error;
            fn $name<T: Serialize + ?Sized>(&mut self, value: &T) -> Done {
                self.member(value)
            }
            fn end(self) -> Done {
                self.end()
            }
        })*
    };
}

macro_rules! structs {
    ($($Trait:ident;)*) => {
        $(impl ser::$Trait for Members<'_, '_> {
            type Ok = ();
            type Error = Error;
            fn serialize_field<T: Serialize + ?Sized>(&mut self, key: &'static str, value: &T) -> Done {
                self.within.visit(Token::Field(key), value)
            }
            fn end(self) -> Done {
                self.end()
            }
        })*
    };
}

lists! {
    SerializeSeq, serialize_element;
    SerializeTuple, serialize_element;
    SerializeTupleStruct, serialize_field;
    SerializeTupleVariant, serialize_field;
}
structs! {
    SerializeStruct;
    SerializeStructVariant;
}

impl ser::SerializeMap for Members<'_, '_> {
    type Ok = ();
    type Error = Error;
    fn serialize_key<T: Serialize + ?Sized>(&mut self, key: &T) -> Done {
        self.key = key.serialize(Key)?;
        Ok(())
    }
    fn serialize_value<T: Serialize + ?Sized>(&mut self, value: &T) -> Done {
        self.within.visit(Token::Key(std::mem::take(&mut self.key)), value)
    }
    fn end(self) -> Done {
        self.end()
    }
}

/// Serializer of the keys of a map, as JSON names its fields.
struct Key;

macro_rules! keys {
    ($($name:ident: $Type:ty),*) => {
        $(fn $name(self, key: $Type) -> Result<String, Error> {
            Ok(key.to_string())
        })*
    };
}

macro_rules! no_keys {
    ($($name:ident($($Type:ty),*) -> $Out:ty;)*) => {
        $(fn $name(self, $(_: $Type),*) -> Result<$Out, Error> {
            Err(ser::Error::custom("the key of a map is a name or a number"))
        })*
    };
}

type No = ser::Impossible<String, Error>;

impl Serializer for Key {
    type Ok = String;
    type Error = Error;
    type SerializeSeq = No;
    type SerializeTuple = No;
    type SerializeTupleStruct = No;
    type SerializeTupleVariant = No;
    type SerializeMap = No;
    type SerializeStruct = No;
    type SerializeStructVariant = No;

    keys!(serialize_u8: u8, serialize_u16: u16, serialize_u32: u32, serialize_u64: u64, serialize_i8: i8,
        serialize_i16: i16, serialize_i32: i32, serialize_i64: i64, serialize_bool: bool,
        serialize_char: char, serialize_str: &str);
    no_keys! {
        serialize_f32(f32) -> String;
        serialize_f64(f64) -> String;
        serialize_bytes(&[u8]) -> String;
        serialize_none() -> String;
        serialize_unit() -> String;
        serialize_unit_struct(&'static str) -> String;
        serialize_seq(Option<usize>) -> No;
        serialize_tuple(usize) -> No;
        serialize_tuple_struct(&'static str, usize) -> No;
        serialize_tuple_variant(&'static str, u32, &'static str, usize) -> No;
        serialize_map(Option<usize>) -> No;
        serialize_struct(&'static str, usize) -> No;
        serialize_struct_variant(&'static str, u32, &'static str, usize) -> No;
    }
    fn serialize_some<T: Serialize + ?Sized>(self, key: &T) -> Result<String, Error> {
        key.serialize(self)
    }
    fn serialize_unit_variant(self, _: &'static str, _: u32, word: &'static str) -> Result<String, Error> {
        Ok(word.into())
    }
    fn serialize_newtype_struct<T: Serialize + ?Sized>(
        self,
        _: &'static str,
        key: &T,
    ) -> Result<String, Error> {
        key.serialize(self)
    }
    fn serialize_newtype_variant<T: Serialize + ?Sized>(
        self,
        _: &'static str,
        _: u32,
        _: &'static str,
        _: &T,
    ) -> Result<String, Error> {
        Err(ser::Error::custom("the key of a map is a name or a number"))
    }
}
