//! Alerts: what somebody is to know about a plan, who was told of it, and who has taken it on.

use serde::Serialize;
use sqlx::FromRow;

use crate::{Result, Store, StoreError};

/// Something that is wrong by now.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct AlertCondition {
    /// What it is about, the same while it goes on.
    pub about: String,
    /// Grows when more of it comes.
    pub newest: i64,
    /// How much of it there is.
    pub count: i64,
    /// What it is, in a sentence.
    pub words: String,
}

/// What somebody is to know.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Alert {
    /// Its number.
    pub id: i64,
    /// Its plan.
    pub plan_id: i64,
    /// What it is about.
    pub about: String,
    /// How much of it there is.
    pub count: i64,
    /// What it is, in a sentence.
    pub words: String,
    /// When it began, in milliseconds since 1970.
    pub began_at: i64,
    /// Who has taken it on.
    pub taken_by: Option<String>,
    /// When.
    pub taken_at: Option<i64>,
    /// Who was told, or could not be.
    pub told: Vec<Told>,
}

/// Whether somebody was told.
#[derive(Clone, Debug, PartialEq, Serialize, FromRow, utoipa::ToSchema)]
pub struct Told {
    /// The alert.
    #[serde(skip)]
    pub alert_id: i64,
    /// The address.
    pub address: String,
    /// When it was tried last, in milliseconds since 1970.
    pub tried_at: i64,
    /// How often it was told.
    pub times: u32,
    /// How often it failed since it last went well.
    pub failed: u32,
    /// Why it failed last; absent when it went well.
    pub problem: Option<String>,
}

#[derive(FromRow)]
struct AlertRow {
    id: i64,
    plan_id: i64,
    about: String,
    newest: i64,
    count: i64,
    words: String,
    began_at: i64,
    taken_by: Option<String>,
    taken_at: Option<i64>,
}

const FIELDS: &str = "SELECT id, plan_id, about, newest, count, words, began_at, taken_by, taken_at FROM alert";

impl Store {
    /// Brings the alerts of a plan to what is wrong by now: new ones begin, those that are no longer so are over. More of something that
    /// was taken on begins anew where `begins_anew` of the moment at which it was taken on. Tells whether anything changed.
    ///
    /// # Errors
    /// The database's own; also when the plan is gone.
    pub async fn set_alert_conditions(
        &self,
        plan_id: i64,
        alert_conditions: &[AlertCondition],
        begins_anew: impl Fn(i64) -> bool + Send,
        now: i64,
    ) -> Result<bool> {
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE plan_id = ? AND over_at IS NULL"));
        let open: Vec<AlertRow> = sqlx::query_as(query).bind(plan_id).fetch_all(&self.readers).await?;
        let mut over: Vec<i64> = Vec::new();
        let (mut more, mut new): (Vec<(i64, &AlertCondition)>, Vec<&AlertCondition>) = (Vec::new(), Vec::new());
        for alert in &open {
            if !alert_conditions.iter().any(|condition| condition.about == alert.about) {
                over.push(alert.id);
            }
        }
        for condition in alert_conditions {
            match open.iter().find(|alert| alert.about == condition.about) {
                None => new.push(condition),
                Some(alert) if condition.newest > alert.newest && alert.taken_at.is_some_and(&begins_anew) => {
                    over.push(alert.id);
                    new.push(condition);
                }
                // What was taken on stays as it was then, so that more of it can be told from it.
                Some(alert) if alert.taken_at.is_some() => {}
                Some(alert) if (alert.newest, alert.count, &alert.words) != (condition.newest, condition.count, &condition.words) => {
                    more.push((alert.id, condition));
                }
                Some(_) => {}
            }
        }
        if over.is_empty() && more.is_empty() && new.is_empty() {
            return Ok(false);
        }
        let mut transaction = self.begin().await?;
        for id in over {
            sqlx::query("UPDATE alert SET over_at = ? WHERE id = ?").bind(now).bind(id).execute(&mut *transaction).await?;
        }
        for (id, condition) in more {
            // Somebody may have taken it on meanwhile.
            let update = sqlx::query("UPDATE alert SET newest = ?, count = ?, words = ? WHERE id = ? AND taken_at IS NULL");
            update.bind(condition.newest).bind(condition.count).bind(&condition.words).bind(id).execute(&mut *transaction).await?;
        }
        for condition in new {
            let insert = sqlx::query("INSERT INTO alert (plan_id, about, newest, count, words, began_at) VALUES (?, ?, ?, ?, ?, ?)");
            let insert = insert.bind(plan_id).bind(&condition.about).bind(condition.newest).bind(condition.count).bind(&condition.words);
            insert.bind(now).execute(&mut *transaction).await?;
        }
        transaction.commit().await?;
        Ok(true)
    }

    /// The alerts that are not over, of a plan or of all, the oldest first.
    ///
    /// # Errors
    /// The database's own.
    pub async fn alerts(&self, plan_id: Option<i64>) -> Result<Vec<Alert>> {
        let mut connection = self.readers.begin().await?;
        let query = sqlx::AssertSqlSafe(format!("{FIELDS} WHERE over_at IS NULL AND plan_id = coalesce(?, plan_id) ORDER BY id"));
        let rows: Vec<AlertRow> = sqlx::query_as(query).bind(plan_id).fetch_all(&mut *connection).await?;
        let query = "SELECT t.alert_id, t.address, t.tried_at, t.times, t.failed, t.problem FROM alert_told AS t \
            JOIN alert AS a ON a.id = t.alert_id WHERE a.over_at IS NULL";
        let told: Vec<Told> = sqlx::query_as(query).fetch_all(&mut *connection).await?;
        let whole = |row: AlertRow| {
            let AlertRow { id, plan_id, about, count, words, began_at, taken_by, taken_at, .. } = row;
            let told = told.iter().filter(|told| told.alert_id == id).cloned().collect();
            Alert { id, plan_id, about, count, words, began_at, taken_by, taken_at, told }
        };
        Ok(rows.into_iter().map(whole).collect())
    }

    /// Keeps that somebody was told of alerts, or why not.
    ///
    /// # Errors
    /// The database's own.
    pub async fn told(&self, address: &str, alerts: &[i64], problem: Option<&str>, now: i64) -> Result<()> {
        let mut transaction = self.begin().await?;
        for id in alerts {
            let failed = i64::from(problem.is_some());
            // An alert whose plan was deleted meanwhile is no longer there.
            let keep = "INSERT INTO alert_told (alert_id, address, tried_at, times, failed, problem) \
                SELECT id, ?2, ?3, 1 - ?4, ?4, ?5 FROM alert WHERE id = ?1 \
                ON CONFLICT (alert_id, address) DO UPDATE SET tried_at = ?3, times = times + 1 - ?4, \
                failed = CASE WHEN ?4 = 0 THEN 0 ELSE failed + 1 END, problem = ?5";
            let keep = sqlx::query(keep).bind(id).bind(address).bind(now).bind(failed).bind(problem);
            keep.execute(&mut *transaction).await?;
        }
        transaction.commit().await?;
        Ok(())
    }

    /// Takes an alert on: nobody is told of it any more. Who took it on first has it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also for one that is over; [`StoreError::BadCollection`] without a name.
    pub async fn take_on(&self, id: i64, who: &str, now: i64) -> Result<Alert> {
        let who = who.trim();
        if who.is_empty() || who.chars().count() > 100 {
            return Err(StoreError::bad_collection("whoever takes it on says a name of 100 characters at most"));
        }
        let update = sqlx::query("UPDATE alert SET taken_by = ?, taken_at = ? WHERE id = ? AND taken_at IS NULL");
        let mut transaction = self.begin().await?;
        update.bind(who).bind(now).bind(id).execute(&mut *transaction).await?;
        transaction.commit().await?;
        let open = self.alerts(None).await?;
        open.into_iter().find(|alert| alert.id == id).ok_or(StoreError::NotFound { what: "alert", id })
    }
}
