//! Telling people: when a message goes out, what it gathers, and when it is said again.

/// How patient it is, in milliseconds.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Patience {
    /// How long something new waits for more to be told with it.
    pub gather: i64,
    /// How long after it was told it is told again, while nobody has taken it on.
    pub again: i64,
}

/// Something that one addressee is to know and that nobody has taken on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Untaken {
    /// When it began, in milliseconds since 1970.
    pub began_at: i64,
    /// When this addressee was told last, or the telling failed last; absent while it never was.
    pub tried_at: Option<i64>,
    /// How often telling failed since it last went well.
    pub failed: u32,
}

/// First pause after a telling that failed, in milliseconds; each further one lasts twice as long.
const FIRST_PAUSE: i64 = 5_000;

impl Patience {
    /// When one thing is to be told next.
    fn next(&self, one: &Untaken) -> i64 {
        match one.tried_at {
            None => one.began_at.saturating_add(self.gather),
            Some(tried) if one.failed > 0 => {
                tried.saturating_add(FIRST_PAUSE.saturating_mul(1 << (one.failed - 1).min(20)).min(self.again.max(FIRST_PAUSE)))
            }
            Some(told) => told.saturating_add(self.again),
        }
    }

    /// Whether a message goes out now. It then tells everything that is untaken, so that one message holds the whole.
    pub fn is_up(&self, untaken: &[Untaken], now: i64) -> bool {
        untaken.iter().any(|one| self.next(one) <= now)
    }

    /// Whether more of something that was taken on is told as something new: not as long as whoever took it on may still be at it.
    pub fn begins_anew(&self, taken_at: i64, now: i64) -> bool {
        now >= taken_at.saturating_add(self.again)
    }
}

/// How somebody is told.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Way {
    /// By a message that is posted to a web address.
    Webhook,
    /// By e-mail.
    Mail,
}

impl Way {
    /// How the holder of an address is told; absent for what is no address.
    pub fn of(address: &str) -> Option<Way> {
        if address.chars().any(|letter| letter.is_whitespace() || letter.is_control()) {
            return None;
        }
        if let Some(rest) = address.strip_prefix("https://").or_else(|| address.strip_prefix("http://")) {
            let host = rest.split(['/', '?', '#']).next().unwrap_or_default();
            return (!host.is_empty()).then_some(Way::Webhook);
        }
        let (name, domain) = address.split_once('@')?;
        let is_mail = !name.is_empty() && !domain.is_empty() && !domain.contains(['@', '/', ':', '<', '>', ',']);
        is_mail.then_some(Way::Mail)
    }
}
