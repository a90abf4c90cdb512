//! Specification lists: a row a characteristic, with its limits.

use std::collections::HashSet;

use acorn_data::frame::Rules;

use crate::table::{Table, TableColumn};

/// What a specification list says of one characteristic; what it does not say is absent.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Specification {
    /// The characteristic, as the list calls it.
    pub name: String,
    /// The product or part that its limits are about; every one when absent.
    pub of: Option<String>,
    /// What tells the products apart: what the list calls it.
    pub by: Option<String>,
    /// The day from which its limits hold, as `2026-05-04`.
    pub from: Option<String>,
    /// The column that says when a row was measured, where the list names it.
    pub since: Option<String>,
    /// Its unit.
    pub unit: Option<String>,
    /// Decimals to show.
    pub decimals: Option<u8>,
    /// Lower specification limit.
    pub lsl: Option<f64>,
    /// The aim.
    pub target: Option<f64>,
    /// Upper specification limit.
    pub usl: Option<f64>,
    /// What its values can be.
    pub rules: Rules,
}

/// What the columns of such lists are called, in small letters and without signs.
const NAMES: [&str; 7] = ["name", "column", "characteristic", "feature", "property", "measure", "dimension"];
const UNITS: [&str; 2] = ["unit", "units"];
const DECIMALS: [&str; 2] = ["decimals", "decimal places"];
const LOWER: [&str; 6] = ["lsl", "lower", "lower limit", "lower specification limit", "min", "minimum"];
const AIMS: [&str; 4] = ["target", "aim", "nominal", "nominal value"];
const UPPER: [&str; 6] = ["usl", "upper", "upper limit", "upper specification limit", "max", "maximum"];
const TOLERANCES: [&str; 5] = ["tolerance", "tol", "±", "+/-", "plus minus"];
const LOWER_BOUNDS: [&str; 2] = ["lower bound", "natural lower bound"];
const UPPER_BOUNDS: [&str; 2] = ["upper bound", "natural upper bound"];
const LOWEST: [&str; 2] = ["lowest believed", "lowest"];
const HIGHEST: [&str; 2] = ["highest believed", "highest"];
/// What tells products apart where the list does not use the word of the table.
const PRODUCTS: [&str; 7] = ["product", "part", "for", "type", "variant", "model", "article"];
const FROM: [&str; 5] = ["from", "valid from", "effective from", "since", "from date"];
const BY: [&str; 1] = ["limits by"];
const DATES_IN: [&str; 1] = ["dates in"];
const CAUSES: [&str; 2] = ["causes", "cause list"];
const CHOICES: [&str; 2] = ["choices", "labels"];

/// The specifications of a list, for data with columns of some names. A tolerance gives the limits that a target lacks, the same to both
/// sides. A characteristic has a line for each product where the list has a column of the data, or says that the products are apart.
/// `None` when no column has the names, or none has anything of them.
pub fn specifications(table: &Table, columns: &[&str]) -> Option<Vec<Specification>> {
    let find = |names: &[&str]| {
        let is = |column: &&TableColumn| names.contains(&column.name.trim().trim_end_matches([':', '.']).to_lowercase().as_str());
        table.columns.iter().find(is)
    };
    let names = find(&NAMES)?;
    let all = [&LOWER[..], &AIMS, &UPPER, &UNITS, &DECIMALS, &LOWER_BOUNDS, &UPPER_BOUNDS, &LOWEST, &HIGHEST].map(find);
    let (choices, causes) = (find(&CHOICES), find(&CAUSES));
    if all.iter().chain([&choices, &causes]).all(Option::is_none) {
        return None;
    }
    let tolerances = find(&TOLERANCES);
    let (by, from, dates) = (find(&BY), find(&FROM), find(&DATES_IN));
    let of_data =
        |column: &&TableColumn| column.name != names.name && columns.iter().any(|name| name.eq_ignore_ascii_case(column.name.trim()));
    // "Part" above one line each is a remark.
    let mut seen = HashSet::new();
    let repeat = (0..table.rows).any(|row| !names.values.is_missing(row) && !seen.insert(names.values.key(row)));
    let own = table.columns.iter().find(of_data);
    let products = own.or_else(|| find(&PRODUCTS).filter(|_| by.is_some() || (repeat && from.is_none())));
    let [lower, aims, upper, units, decimals, lower_bounds, upper_bounds, lowest, highest] = all;
    let text =
        |column: Option<&TableColumn>, row: usize| column.and_then(|column| column.values.text(row)).filter(|text| !text.trim().is_empty());
    let number = |column: Option<&TableColumn>, row: usize| text(column, row).and_then(|text| text.parse::<f64>().ok());
    let specification = |row: usize| {
        let name = text(Some(names), row)?.trim().to_owned();
        let (target, tolerance) = (number(aims, row), number(tolerances, row).map(f64::abs));
        // What is nominally 0.1 below 2.4 is 2.3, and not 2.3000000000000003.
        let beside = |sign: f64| Some(((target? + sign * tolerance?) * 1e9).round() / 1e9);
        let of = text(products, row).map(|text| text.trim().to_owned());
        Some(Specification {
            name,
            by: text(by, row).or_else(|| of.as_ref().and(own).map(|column| column.name.clone())).map(|text| text.trim().to_owned()),
            of,
            from: text(from, row),
            since: text(dates, row),
            unit: text(units, row).map(|unit| unit.trim().to_owned()),
            decimals: number(decimals, row).filter(|decimals| (0.0..=12.0).contains(decimals)).map(|decimals| decimals as u8),
            lsl: number(lower, row).or_else(|| beside(-1.0)),
            target,
            usl: number(upper, row).or_else(|| beside(1.0)),
            rules: Rules {
                lower_bound: number(lower_bounds, row),
                upper_bound: number(upper_bounds, row),
                lowest: number(lowest, row),
                highest: number(highest, row),
                choices: text(choices, row)
                    .map(|text| text.split([',', ';']).map(|one| one.trim().to_owned()).collect())
                    .unwrap_or_default(),
                causes: text(causes, row).map(|text| text.split(';').map(|one| one.trim().to_owned()).collect()).unwrap_or_default(),
            },
        })
    };
    Some((0..table.rows).filter_map(specification).collect())
}
