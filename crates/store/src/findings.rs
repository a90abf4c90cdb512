//! Findings: the cause of a signal, what is done about it, and whether its rows are left out of the limits.

use std::collections::HashMap;

use serde::{Deserialize, Serialize};
use sqlx::{FromRow, SqliteConnection};

use crate::history::{self, About, Change, HistoryEvent};
use crate::{Result, Store, StoreError, Study, studies};

/// What is known about a signal.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Finding {
    /// Its number.
    pub id: i64,
    /// What was plotted where the signal was found.
    pub panel: String,
    /// The pattern.
    pub pattern: String,
    /// The rows of its points.
    pub row_ids: Vec<i64>,
    /// What the signal was, in one sentence.
    pub sentence: String,
    /// The cause, from the list of the column.
    pub cause: Option<String>,
    /// More about it.
    pub words: String,
    /// What is done about it.
    pub action: String,
    /// Who does it.
    pub owner: String,
    /// By when, as `2026-05-04`.
    pub due: Option<String>,
    /// Whether it is done.
    pub done: bool,
    /// Whether its rows are left out of the limits.
    pub left_out: bool,
    /// Who said so last.
    pub actor: String,
    /// When, in milliseconds since 1970.
    pub at: i64,
}

/// What a person says about a signal; what is absent stays as it was, what is empty is taken back.
#[derive(Clone, Debug, Default, PartialEq, Deserialize, utoipa::ToSchema)]
pub struct Said {
    /// The cause; a new one joins the list of the column. Without one no point is left out.
    #[serde(default)]
    pub cause: Option<String>,
    /// More about it.
    #[serde(default)]
    pub words: Option<String>,
    /// What is done about it.
    #[serde(default)]
    pub action: Option<String>,
    /// Who does it.
    #[serde(default)]
    pub owner: Option<String>,
    /// By when, as `2026-05-04`.
    #[serde(default)]
    pub due: Option<String>,
    /// Whether it is done.
    #[serde(default)]
    pub done: Option<bool>,
    /// Whether its rows are left out of the limits; only with a cause.
    #[serde(default)]
    pub left_out: Option<bool>,
}

/// The signal that something is said about.
#[derive(Clone, Debug)]
pub struct SignalRef {
    /// The finding there is, if there is one.
    pub finding: Option<i64>,
    /// What is plotted where it was found.
    pub panel: String,
    /// The pattern.
    pub pattern: String,
    /// The rows of its points.
    pub row_ids: Vec<i64>,
    /// What it is, in one sentence.
    pub sentence: String,
    /// The column whose list of causes it takes.
    pub column_id: i64,
}

/// Longest text of a finding.
const WORDS_MAX: usize = 2000;
/// Most rows that one finding can be about.
const ROWS_MAX: usize = 100_000;

impl Said {
    /// A finding with this said on top of it.
    fn on(self, mut finding: Finding) -> Result<Finding> {
        let bad = |problem: &str| Err(StoreError::BadFinding { problem: problem.to_owned() });
        let text = |said: Option<String>, before: &mut String| {
            if let Some(said) = said {
                said.trim().clone_into(before);
            }
        };
        text(self.words, &mut finding.words);
        text(self.action, &mut finding.action);
        text(self.owner, &mut finding.owner);
        let filled = |text: String| Some(text.trim().to_owned()).filter(|text| !text.is_empty());
        finding.cause = self.cause.map_or(finding.cause, filled);
        finding.due = self.due.map_or(finding.due, filled);
        finding.done = self.done.unwrap_or(finding.done) && !finding.action.is_empty();
        finding.left_out = self.left_out.unwrap_or(finding.left_out && finding.cause.is_some());
        if finding.left_out && finding.cause.is_none() {
            return bad("points are left out of the limits only with a cause");
        }
        let texts = [finding.cause.as_deref().unwrap_or_default(), &finding.words, &finding.action, &finding.owner];
        if texts.iter().any(|text| text.chars().count() > WORDS_MAX) {
            return bad("a text is longer than 2,000 letters");
        }
        if finding.due.as_deref().is_some_and(|due| !is_day(due)) {
            return bad("the due date is not a day such as 2026-05-04");
        }
        Ok(finding)
    }
}

impl Finding {
    fn says_nothing(&self) -> bool {
        let texts = [&self.words, &self.action, &self.owner];
        self.cause.is_none() && self.due.is_none() && texts.iter().all(|text| text.is_empty())
    }
}

fn is_day(text: &str) -> bool {
    let parts: Vec<&str> = text.split('-').collect();
    let numbers: Vec<u32> = parts.iter().filter_map(|part| part.parse().ok()).collect();
    matches!((&parts[..], &numbers[..]), ([y, m, d], [_, 1..=12, 1..=31]) if y.len() == 4 && m.len() == 2 && d.len() == 2)
}

#[derive(FromRow)]
struct FindingRow {
    id: i64,
    study_id: i64,
    panel: String,
    pattern: String,
    row_ids: String,
    sentence: String,
    cause: Option<String>,
    words: String,
    action: String,
    owner: String,
    due: Option<String>,
    done: bool,
    left_out: bool,
    actor: String,
    at: i64,
}

impl FindingRow {
    fn into_finding(self) -> Result<Finding> {
        let FindingRow { id, panel, pattern, row_ids, sentence, cause, words, action, owner, due, done, left_out, actor, at, .. } = self;
        let row_ids = serde_json::from_str(&row_ids)?;
        Ok(Finding { id, panel, pattern, row_ids, sentence, cause, words, action, owner, due, done, left_out, actor, at })
    }
}

const FIELDS: &str = "SELECT finding.id, study_id, panel, pattern, row_ids, sentence, cause.words AS cause, finding.words, action, owner, due, \
    done, left_out, actor, at FROM finding LEFT JOIN cause ON cause.id = cause_id";

/// All findings of a study, the oldest first.
pub(crate) async fn of_study(connection: &mut SqliteConnection, study_id: i64) -> Result<Vec<Finding>> {
    let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE study_id = ? ORDER BY finding.id"));
    let rows: Vec<FindingRow> = sqlx::query_as(query).bind(study_id).fetch_all(connection).await?;
    rows.into_iter().map(FindingRow::into_finding).collect()
}

impl Store {
    /// All findings of a study, the oldest first.
    ///
    /// # Errors
    /// The database's own.
    pub async fn findings(&self, study_id: i64) -> Result<Vec<Finding>> {
        let mut connection = self.readers.acquire().await?;
        of_study(&mut connection, study_id).await
    }

    /// All findings of all studies, by study, the oldest first.
    ///
    /// # Errors
    /// The database's own.
    pub async fn all_findings(&self) -> Result<HashMap<i64, Vec<Finding>>> {
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} ORDER BY finding.id"));
        let mut by_study = HashMap::<i64, Vec<Finding>>::new();
        for row in sqlx::query_as::<_, FindingRow>(query).fetch_all(&self.readers).await? {
            by_study.entry(row.study_id).or_default().push(row.into_finding()?);
        }
        Ok(by_study)
    }

    /// The causes of a column, in the order in which they were first given.
    ///
    /// # Errors
    /// The database's own.
    pub async fn causes(&self, column_id: i64) -> Result<Vec<String>> {
        let query = sqlx::query_scalar("SELECT words FROM cause WHERE column_id = ? ORDER BY id");
        Ok(query.bind(column_id).fetch_all(&self.readers).await?)
    }

    /// Says something about a signal, on top of what was said before. A finding that says nothing any more goes.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Conflict`], [`StoreError::BadFinding`] when points would be left out
    /// without a cause.
    pub async fn say(&self, study_id: i64, revision: i64, about: SignalRef, said: Said, change: &Change<'_>) -> Result<Study> {
        if about.row_ids.len() > ROWS_MAX {
            return Err(StoreError::BadFinding { problem: "the signal spans more than 100,000 rows".into() });
        }
        let mut transaction = self.begin().await?;
        let study = studies::get_at(&mut transaction, study_id, revision).await?;
        let findings = of_study(&mut transaction, study_id).await?;
        let before = findings.into_iter().find(|finding| Some(finding.id) == about.finding);
        if about.finding.is_some() && before.is_none() {
            return Err(StoreError::NotFound { what: "finding", id: about.finding.unwrap_or_default() });
        }
        let bare = Finding {
            id: about.finding.unwrap_or_default(),
            panel: about.panel,
            pattern: about.pattern,
            row_ids: about.row_ids,
            sentence: about.sentence,
            cause: None,
            words: String::new(),
            action: String::new(),
            owner: String::new(),
            due: None,
            done: false,
            left_out: false,
            actor: change.actor.to_owned(),
            at: change.at,
        };
        let known = match &before {
            Some(Finding { cause, words, action, owner, due, done, left_out, .. }) => Finding {
                cause: cause.clone(),
                words: words.clone(),
                action: action.clone(),
                owner: owner.clone(),
                due: due.clone(),
                done: *done,
                left_out: *left_out,
                ..bare
            },
            None => bare,
        };
        let after = Some(said.on(known)?).filter(|finding| !finding.says_nothing());
        if before.is_none() && after.is_none() {
            return Ok(study);
        }
        let id = write(&mut transaction, study_id, about.column_id, before.as_ref().map(|finding| finding.id), after.as_ref()).await?;
        let (before, after) = (before.map(Box::new), after.map(Box::new));
        let event = HistoryEvent::Finding { id, column_id: about.column_id, before, after };
        history::record(&mut transaction, change, About::Study(study_id, study.dataset_id), &event).await?;
        studies::advance(&mut transaction, study_id, None, change).await?;
        transaction.commit().await?;
        self.study(study_id).await
    }
}

/// Writes a finding in place of another, or takes it away; gives its number.
async fn write(connection: &mut SqliteConnection, study_id: i64, column_id: i64, old: Option<i64>, new: Option<&Finding>) -> Result<i64> {
    if let Some(old) = old {
        sqlx::query("DELETE FROM finding WHERE id = ?").bind(old).execute(&mut *connection).await?;
    }
    let Some(new) = new else { return Ok(old.unwrap_or_default()) };
    let cause_id: Option<i64> = match &new.cause {
        Some(words) => {
            let insert = sqlx::query("INSERT INTO cause (column_id, words) VALUES (?, ?) ON CONFLICT DO NOTHING");
            insert.bind(column_id).bind(words).execute(&mut *connection).await?;
            let find = sqlx::query_scalar("SELECT id FROM cause WHERE column_id = ? AND words = ?");
            Some(find.bind(column_id).bind(words).fetch_one(&mut *connection).await?)
        }
        None => None,
    };
    let insert = sqlx::query(
        "INSERT INTO finding (id, study_id, panel, pattern, row_ids, sentence, cause_id, words, action, owner, due, done, left_out, \
         actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    let insert = insert.bind(Some(new.id).filter(|id| *id > 0).or(old)).bind(study_id).bind(&new.panel).bind(&new.pattern);
    let insert = insert.bind(serde_json::to_string(&new.row_ids)?).bind(&new.sentence).bind(cause_id).bind(&new.words).bind(&new.action);
    let insert = insert.bind(&new.owner).bind(&new.due).bind(new.done).bind(new.left_out).bind(&new.actor).bind(new.at);
    Ok(insert.execute(connection).await?.last_insert_rowid())
}

/// Says of a signal again what was said at another time.
pub(crate) async fn restore(
    connection: &mut SqliteConnection,
    study_id: i64,
    (id, column_id): (i64, i64),
    wanted: Option<&Finding>,
) -> Result<()> {
    write(connection, study_id, column_id, Some(id), wanted).await.map(drop)
}
