//! The functions of a formula over the columns of a table, beside those of numbers.

use crate::frame::Kind;

/// What a part of a formula is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Type {
    /// A number; 1 and 0 for what holds or does not.
    Number,
    /// Words or a label.
    Words,
    /// A moment.
    Moment,
}

impl Type {
    /// What the values of a kind of column are.
    pub fn of(kind: Kind) -> Type {
        match kind {
            Kind::Number | Kind::WholeNumber => Type::Number,
            Kind::Category | Kind::Text => Type::Words,
            Kind::DateTime => Type::Moment,
        }
    }

    /// In words.
    pub fn display_text(self) -> &'static str {
        match self {
            Type::Number => "a number",
            Type::Words => "words",
            Type::Moment => "a moment",
        }
    }
}

/// What an argument has to be.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Takes {
    Number,
    Words,
    Moment,
    /// Anything.
    Any,
    /// What the first argument is.
    Same,
    /// One number as typed, the same for all rows.
    OneNumber,
    /// Words as typed, the same for all rows.
    OneWords,
}

/// How a function is written, what it takes and gives.
pub struct Form {
    function: TableFunction,
    name: &'static str,
    /// As it is written.
    written: &'static str,
    /// What it gives, in a sentence.
    pub help: &'static str,
    takes: &'static [Takes],
    /// What comes behind, any number of times.
    more: &'static [Takes],
    least: usize,
    /// `None`: what the first argument is.
    pub gives: Option<Type>,
    /// Whether a row's value rests on other rows.
    pub looks_around: bool,
}

macro_rules! functions {
    ($($variant:ident $name:literal $written:literal $takes:tt $more:tt from $least:literal $gives:expr, $around:literal: $help:literal;)*) => {
        /// A function over the columns of a table.
        #[derive(Clone, Copy, Debug, PartialEq, Eq)]
        pub enum TableFunction { $(#[doc = $help] $variant,)* }

        impl TableFunction {
            /// All, in the order in which they are offered.
            pub const ALL: [TableFunction; [$($name),*].len()] = [$(TableFunction::$variant),*];
        }

        const FORMS: [Form; TableFunction::ALL.len()] = {
            use Takes::*;
            [$(Form {
                function: TableFunction::$variant, name: $name, written: $written, help: $help,
                takes: &$takes, more: &$more, least: $least, gives: $gives, looks_around: $around,
            }),*]
        };
    };
}

const NUMBER: Option<Type> = Some(Type::Number);
const WORDS: Option<Type> = Some(Type::Words);
const MOMENT: Option<Type> = Some(Type::Moment);

functions! {
    Missing "missing" "missing(x)" [Any] [] from 1 NUMBER, false: "1 where there is no value, else 0.";
    FirstOf "first_of" "first_of(x, y, …)" [Any] [Same] from 2 None, false: "The first of its arguments that is there.";
    And "and" "and(a, b, …)" [Number] [Number] from 2 NUMBER, false: "1 where all hold, else 0.";
    Or "or" "or(a, b, …)" [Number] [Number] from 2 NUMBER, false: "1 where any holds, else 0.";
    Not "not" "not(a)" [Number] [] from 1 NUMBER, false: "1 where it does not hold, else 0.";
    Remainder "remainder" "remainder(x, by)" [Number, Number] [] from 2 NUMBER, false: "What is left of a division, with the sign of the divisor.";
    RowMean "row_mean" "row_mean(x, y, …)" [Number] [Number] from 2 NUMBER, false: "The mean of what is there in its row.";
    RowSd "row_sd" "row_sd(x, y, …)" [Number] [Number] from 2 NUMBER, false: "The sample sd of what is there in its row.";
    RowRange "row_range" "row_range(x, y, …)" [Number] [Number] from 2 NUMBER, false: "Largest less smallest of what is there in its row.";
    Upper "upper" "upper(words)" [Words] [] from 1 WORDS, false: "In capitals.";
    Lower "lower" "lower(words)" [Words] [] from 1 WORDS, false: "Without capitals.";
    Trim "trim" "trim(words)" [Words] [] from 1 WORDS, false: "Without space around, and one space where there are several.";
    Length "length" "length(words)" [Words] [] from 1 NUMBER, false: "How many characters.";
    Left "left" "left(words, n)" [Words, OneNumber] [] from 2 WORDS, false: "The first n characters.";
    Right "right" "right(words, n)" [Words, OneNumber] [] from 2 WORDS, false: "The last n characters.";
    Piece "piece" "piece(words, \"-\", n)" [Words, OneWords, OneNumber] [] from 3 WORDS, false: "The nth piece between separators.";
    Join "join" "join(x, y, …)" [Any] [Any] from 2 WORDS, false: "Its arguments as words, one behind the other.";
    Contains "contains" "contains(words, \"x\")" [Words, OneWords] [] from 2 NUMBER, false: "1 where these words stand in it, in capitals or not, else 0.";
    Replace "replace" "replace(words, \"from\", \"to\")" [Words, OneWords, OneWords] [] from 3 WORDS, false: "With some words in place of others.";
    Recode "recode" "recode(words, \"from\", \"to\", …, \"else\")" [Words] [OneWords] from 3 WORDS, false: "Other labels by a small table; the last one, without a partner, for all the rest.";
    AsNumber "number" "number(words)" [Words] [] from 1 NUMBER, false: "The number that is written there.";
    AsWords "text" "text(x)" [Any] [] from 1 WORDS, false: "A number or a moment as words.";
    Classes "classes" "classes(x, start, width)" [Number, OneNumber, OneNumber] [] from 3 WORDS, false: "The class that a number falls into, such as 2.40 to 2.45.";
    AsMoment "moment" "moment(words)" [Words] [] from 1 MOMENT, false: "The moment that is written there, as 2026-05-04 06:10.";
    Year "year" "year(moment)" [Moment] [] from 1 NUMBER, false: "Its year.";
    Month "month" "month(moment)" [Moment] [] from 1 NUMBER, false: "Its month, 1 to 12.";
    Week "week" "week(moment)" [Moment] [] from 1 NUMBER, false: "Its week of the year (ISO 8601).";
    Day "day" "day(moment)" [Moment] [] from 1 NUMBER, false: "Its day of the month.";
    Weekday "weekday" "weekday(moment)" [Moment] [] from 1 NUMBER, false: "Its day of the week, 1 for Monday.";
    Hour "hour" "hour(moment)" [Moment] [] from 1 NUMBER, false: "Its hour, 0 to 23.";
    Minute "minute" "minute(moment)" [Moment] [] from 1 NUMBER, false: "Its minute.";
    Date "date" "date(moment)" [Moment] [] from 1 WORDS, false: "Its day as a label, such as 2026-05-04.";
    Shift "shift" "shift(moment, \"early\", 6, \"late\", 14, …)" [Moment] [OneWords, OneNumber] from 3 WORDS, false: "The shift that it falls into, each named with the hour at which it starts.";
    Hours "hours" "hours(from, to)" [Moment, Moment] [] from 2 NUMBER, false: "Hours from one moment to another.";
    Row "row" "row()" [] [] from 0 NUMBER, true: "The number of its row.";
    Previous "previous" "previous(x, n)" [Any, OneNumber] [] from 1 None, true: "What stands n rows above, 1 unless said otherwise.";
    Difference "difference" "difference(x)" [Number] [] from 1 NUMBER, true: "Its value less the one above.";
    RunningSum "running_sum" "running_sum(x)" [Number] [] from 1 NUMBER, true: "The sum down to its row, missing values passed over.";
    RunningCount "running_count" "running_count(x)" [Any] [] from 1 NUMBER, true: "How many times its value has come, down to its row.";
    GroupCount "group_count" "group_count(group, …)" [Any] [Any] from 1 NUMBER, true: "Rows of its group.";
    GroupMean "group_mean" "group_mean(x, group, …)" [Number, Any] [Any] from 2 NUMBER, true: "The mean of its group.";
    GroupSd "group_sd" "group_sd(x, group, …)" [Number, Any] [Any] from 2 NUMBER, true: "The sample sd of its group.";
    GroupSum "group_sum" "group_sum(x, group, …)" [Number, Any] [Any] from 2 NUMBER, true: "The sum of its group.";
    GroupMin "group_min" "group_min(x, group, …)" [Number, Any] [Any] from 2 NUMBER, true: "The smallest of its group.";
    GroupMax "group_max" "group_max(x, group, …)" [Number, Any] [Any] from 2 NUMBER, true: "The largest of its group.";
    ColumnMean "column_mean" "column_mean(x)" [Number] [] from 1 NUMBER, true: "The mean of all rows.";
    ColumnSd "column_sd" "column_sd(x)" [Number] [] from 1 NUMBER, true: "The sample sd of all rows.";
    ZScore "z_score" "z_score(x, group, …)" [Number] [Any] from 1 NUMBER, true: "How many sd above the mean, of all rows or of its group.";
    Rank "rank" "rank(x)" [Number] [] from 1 NUMBER, true: "Its place by size, 1 for the smallest; equal ones share the mean of theirs.";
}

/// Most arguments of a function that takes any number of them.
const MOST: usize = 100;

impl TableFunction {
    /// How it is written, what it takes and gives.
    pub fn form(self) -> &'static Form {
        &FORMS[self as usize]
    }

    /// Its name in a formula.
    pub fn name(self) -> &'static str {
        self.form().name
    }

    /// As it is written.
    pub fn written(self) -> &'static str {
        self.form().written
    }

    /// The function of a name.
    pub fn named(name: &str) -> Option<TableFunction> {
        FORMS.iter().find(|form| form.name == name).map(|form| form.function)
    }

    /// Fewest and most arguments.
    pub fn arguments(self) -> (usize, usize) {
        let form = self.form();
        (form.least, if form.more.is_empty() { form.takes.len() } else { MOST })
    }

    /// What it gives for some arguments.
    ///
    /// # Errors
    /// What is wrong with them, in words; `typed` are those that are one number or words as typed.
    pub fn check(self, arguments: &[Type], typed: &[bool]) -> Result<Type, String> {
        let form = self.form();
        for (place, argument) in arguments.iter().enumerate() {
            let behind = |place: usize| form.more[(place - form.takes.len()) % form.more.len()];
            let takes = form.takes.get(place).copied().unwrap_or_else(|| behind(place));
            let (needed, once) = match takes {
                Takes::Number => (Type::Number, false),
                Takes::Words => (Type::Words, false),
                Takes::Moment => (Type::Moment, false),
                Takes::Any => continue,
                Takes::Same => (arguments[0], false),
                Takes::OneNumber => (Type::Number, true),
                Takes::OneWords => (Type::Words, true),
            };
            if *argument != needed {
                return Err(format!(
                    "{} is written {}: in place {} it needs {}, not {}",
                    form.name,
                    form.written,
                    place + 1,
                    needed.display_text(),
                    argument.display_text()
                ));
            }
            if once && !typed[place] {
                return Err(format!(
                    "{} is written {}: in place {} it needs {} as typed",
                    form.name,
                    form.written,
                    place + 1,
                    needed.display_text()
                ));
            }
        }
        let behind = arguments.len().saturating_sub(form.takes.len());
        if !form.more.is_empty() && !behind.is_multiple_of(form.more.len()) {
            return Err(format!("{} is written {}", form.name, form.written));
        }
        Ok(form.gives.or(arguments.first().copied()).unwrap_or(Type::Number))
    }
}
