//! An ordered list of things that edits can name.
//!
//! A list of waypoints, rail points or keys is edited while other pages edit it too, so a member
//! is never meant by its place, which another edit may have shifted, but by a number that stays
//! its own as long as the list lives. For everything that computes, a list is a slice.

use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::collections::BTreeSet;
use std::ops::{Deref, DerefMut};
use ts_rs::TS;

/// Members in order, each with a number of its own; as JSON each carries it as `id`.
#[derive(Clone, Debug, PartialEq)]
pub struct List<T> {
    members: Vec<T>,
    ids: Vec<u32>,
}

/// A member as it is written.
#[derive(Serialize, Deserialize)]
struct Listed<T> {
    #[serde(default)]
    id: u32,
    #[serde(flatten)]
    member: T,
}

impl<T> List<T> {
    /// A member at the end.
    pub fn push(&mut self, member: T) {
        self.ids.push(self.ids.iter().max().map_or(1, |id| id + 1));
        self.members.push(member);
    }

    /// The numbers, in the order of the members.
    pub fn ids(&self) -> &[u32] {
        &self.ids
    }

    /// Puts the members in order, each with its number.
    pub fn sort_by(&mut self, mut order: impl FnMut(&T, &T) -> std::cmp::Ordering) {
        let mut all: Vec<(T, u32)> = self.members.drain(..).zip(self.ids.drain(..)).collect();
        all.sort_by(|(a, _), (b, _)| order(a, b));
        (self.members, self.ids) = all.into_iter().unzip();
    }

    /// Members with the numbers they have; those without one (0), or with one that is taken, are
    /// given the next that are free.
    pub fn numbered(members: Vec<T>, mut ids: Vec<u32>) -> List<T> {
        let mut taken = BTreeSet::new();
        let mut next = ids.iter().max().copied().unwrap_or(0);
        for id in &mut ids {
            if *id == 0 || !taken.insert(*id) {
                next = next.saturating_add(1);
                *id = next;
            }
        }
        List { members, ids }
    }
}

impl<T> Default for List<T> {
    fn default() -> List<T> {
        List { members: Vec::new(), ids: Vec::new() }
    }
}

impl<T> Deref for List<T> {
    type Target = [T];
    fn deref(&self) -> &[T] {
        &self.members
    }
}

impl<T> DerefMut for List<T> {
    fn deref_mut(&mut self) -> &mut [T] {
        &mut self.members
    }
}

impl<T> From<Vec<T>> for List<T> {
    fn from(members: Vec<T>) -> List<T> {
        let ids = (1..=members.len() as u32).collect();
        List { members, ids }
    }
}

impl<T> FromIterator<T> for List<T> {
    fn from_iter<I: IntoIterator<Item = T>>(members: I) -> List<T> {
        members.into_iter().collect::<Vec<T>>().into()
    }
}

impl<'a, T> IntoIterator for &'a List<T> {
    type Item = &'a T;
    type IntoIter = std::slice::Iter<'a, T>;
    fn into_iter(self) -> Self::IntoIter {
        self.members.iter()
    }
}

impl<'a, T> IntoIterator for &'a mut List<T> {
    type Item = &'a mut T;
    type IntoIter = std::slice::IterMut<'a, T>;
    fn into_iter(self) -> Self::IntoIter {
        self.members.iter_mut()
    }
}

impl<T: Serialize> Serialize for List<T> {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.collect_seq(self.members.iter().zip(&self.ids).map(|(member, id)| Listed { id: *id, member }))
    }
}

impl<'de, T: Deserialize<'de>> Deserialize<'de> for List<T> {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<List<T>, D::Error> {
        let listed = Vec::<Listed<T>>::deserialize(from)?;
        let ids = listed.iter().map(|l| l.id).collect();
        Ok(List::numbered(listed.into_iter().map(|l| l.member).collect(), ids))
    }
}

impl<T: TS> TS for List<T> {
    type WithoutGenerics = List<ts_rs::Dummy>;
    type OptionInnerType = Self;

    fn name(cfg: &ts_rs::Config) -> String {
        format!("Array<{{ id: number }} & {}>", T::name(cfg))
    }

    fn inline(cfg: &ts_rs::Config) -> String {
        format!("Array<{{ id: number }} & {}>", T::inline(cfg))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
    struct Place {
        x: f64,
    }

    fn read(json: &str) -> List<Place> {
        serde_json::from_str(json).unwrap()
    }

    #[test]
    fn members_keep_their_numbers_and_get_one_where_they_have_none() {
        let list = read(r#"[{"x":1.0},{"id":7,"x":2.0},{"id":7,"x":3.0},{"id":0,"x":4.0}]"#);
        assert_eq!(list.ids(), [8, 7, 9, 10]);
        assert_eq!(list.iter().map(|p| p.x).collect::<Vec<_>>(), [1.0, 2.0, 3.0, 4.0]);
        let again = read(&serde_json::to_string(&list).unwrap());
        assert_eq!((again.ids(), &again), (list.ids(), &list));
    }

    #[test]
    fn a_new_member_takes_a_number_that_nobody_has() {
        let mut list: List<Place> = vec![Place { x: 0.0 }, Place { x: 1.0 }].into();
        list.push(Place { x: 2.0 });
        assert_eq!(list.ids(), [1, 2, 3]);
        list.sort_by(|a, b| b.x.total_cmp(&a.x));
        assert_eq!((list.ids(), list[0].x), ([3, 2, 1].as_slice(), 2.0));
        let mut empty = List::default();
        empty.push(Place { x: 0.0 });
        assert_eq!(empty.ids(), [1]);
    }
}
