//! The charts of what a plan collects.

use std::collections::BTreeMap;

use acorn_study::collect::{Asked, CollectionPlan};
use acorn_study::{RoleColumns, Spec};
use serde_json::{Map, Value, json};

/// The charts of a new plan: each measurement in its subgroups, and what is counted.
pub fn charts(plan: &CollectionPlan) -> Vec<Spec> {
    let in_order = |(mut roles, options): Chart| {
        roles.extend(column_of(plan, Asked::Time).map(|time| ("order", time)));
        let roles = roles.into_iter().map(|(role, column)| (role.to_owned(), RoleColumns::One(column))).collect();
        Spec { method: "control-chart".to_owned(), roles, options, ..Spec::default() }
    };
    measured(plan).chain(counted(plan)).map(in_order).collect()
}

type Chart = (BTreeMap<&'static str, String>, Map<String, Value>);

fn column_of(plan: &CollectionPlan, asked: Asked) -> Option<String> {
    plan.identifiers.iter().find(|one| one.asked == asked).map(|one| one.column.clone())
}

fn measured(plan: &CollectionPlan) -> impl Iterator<Item = Chart> {
    plan.measurements.iter().map(|one| {
        let (mut roles, mut options) = (BTreeMap::from([("measure", one.column.clone())]), Map::new());
        if plan.pieces > 1 {
            options.insert("chart".to_owned(), json!(if plan.pieces < 9 { "xbar-r" } else { "xbar-s" }));
            match column_of(plan, Asked::Subgroup) {
                Some(column) => drop(roles.insert("subgroup", column)),
                None => drop(options.insert("subgroup_size".to_owned(), json!(plan.pieces))),
            }
        }
        (roles, options)
    })
}

/// What is defective, or else the first kind of defects; by those inspected where they are counted.
fn counted(plan: &CollectionPlan) -> Option<Chart> {
    let counts = &plan.counts;
    let (count, of_inspected) = match (&counts.defectives, counts.defects.first()) {
        (Some(count), _) => (count, "p"),
        (None, Some(count)) => (count, "u"),
        (None, None) => return None,
    };
    let mut roles = BTreeMap::from([("count", count.clone())]);
    roles.extend(counts.inspected.clone().map(|inspected| ("size", inspected)));
    let chart = if counts.inspected.is_some() { of_inspected } else { "c" };
    Some((roles, Map::from_iter([("chart".to_owned(), json!(chart))])))
}
