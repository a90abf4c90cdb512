//! Alerts: looks at what is wrong at the stations, and tells those who are to know, until somebody takes it on.

mod alert_conditions;
mod message;
mod tell;

use std::collections::{BTreeMap, BTreeSet};
use std::time::Duration;

use acorn_store::{Alert, Collection};
use acorn_study::collect::{Patience, Untaken, Way};

use crate::bounds::{ALERTS_LOOKED_AT_MS, ALERTS_TOLD_AT_ONCE};
use crate::service::App;
use crate::service::ServiceError;
use crate::service::now;
use crate::service::standing;

pub use tell::{MailServer, Secrecy};

/// How people are told.
#[derive(Clone, Debug)]
pub struct AlertSettings {
    /// When a message goes out, and when again.
    pub patience: Patience,
    /// The address of the application, which messages lead to.
    pub site: String,
    /// Where e-mail is handed in; absent where none is set up.
    pub mail: Option<MailServer>,
}

impl Default for AlertSettings {
    fn default() -> AlertSettings {
        AlertSettings { patience: Patience { gather: 20_000, again: 30 * 60_000 }, site: "http://127.0.0.1:7311".into(), mail: None }
    }
}

/// Looks after alerts until the service ends.
pub async fn watch(app: App, settings: AlertSettings) {
    let teller = tell::Teller::new(settings.mail.clone());
    let mut live = app.live.listen();
    loop {
        if let Err(error) = look(&app, &settings, &teller).await {
            tracing::warn!(detail = %error.problem.detail, "alerts could not be looked after");
        }
        let pause = tokio::time::sleep(Duration::from_millis(ALERTS_LOOKED_AT_MS));
        tokio::select! {
            () = pause => {}
            () = live.closed() => return,
        }
    }
}

async fn look(app: &App, settings: &AlertSettings, teller: &tell::Teller) -> Result<(), ServiceError> {
    let plans = app.store.collections().await?;
    let moment = now();
    for plan in &plans {
        // Where nobody is told any longer, what was open is over.
        let alert_conditions = if plan.plan.told.is_empty() {
            Vec::new()
        } else {
            alert_conditions::of(app, plan, &standing::due(app, plan, moment).await?).await?
        };
        let stale = |taken_at| settings.patience.begins_anew(taken_at, moment);
        app.store.set_alert_conditions(plan.id, &alert_conditions, stale, moment).await?;
    }
    let open = app.store.alerts(None).await?;
    let untaken: Vec<&Alert> = open.iter().filter(|alert| alert.taken_at.is_none()).collect();
    let addresses: BTreeSet<&String> = plans.iter().flat_map(|plan| &plan.plan.told).collect();
    let up = addresses.into_iter().filter_map(|address| {
        let own = of_address(address, &plans, &untaken);
        let waiting: Vec<Untaken> = own.iter().map(|(alert, _)| told(alert, address)).collect();
        settings.patience.is_up(&waiting, moment).then_some((address, own))
    });
    let up: Vec<_> = up.take(ALERTS_TOLD_AT_ONCE).collect();
    // One that does not answer must not keep the others from being told.
    let telling = up.iter().map(async |(address, own)| {
        let message = message::Message::new(own, address, &settings.site, moment);
        let outcome = teller.tell(address, &message).await;
        let ids: Vec<i64> = own.iter().map(|(alert, _)| alert.id).collect();
        app.store.told(address, &ids, outcome.as_ref().err().map(String::as_str), now()).await
    });
    for kept in futures::future::join_all(telling).await {
        kept?;
    }
    Ok(())
}

/// What one addressee is to know, with the plan of each.
fn of_address<'a>(address: &str, plans: &'a [Collection], untaken: &[&'a Alert]) -> Vec<(&'a Alert, &'a Collection)> {
    let plans: BTreeMap<i64, &Collection> = plans.iter().map(|plan| (plan.id, plan)).collect();
    let own = untaken.iter().filter_map(|alert| Some((*alert, *plans.get(&alert.plan_id)?)));
    own.filter(|(_, plan)| plan.plan.told.iter().any(|told| told == address)).collect()
}

fn told(alert: &Alert, address: &str) -> Untaken {
    let told = alert.told.iter().find(|told| told.address == address);
    Untaken { began_at: alert.began_at, tried_at: told.map(|told| told.tried_at), failed: told.map_or(0, |told| told.failed) }
}

/// How the holder of an address is told; a plan holds no others.
fn way(address: &str) -> Way {
    Way::of(address).unwrap_or(Way::Webhook)
}
