//! Sending messages: to web hooks, and by e-mail through a mail server.

use std::time::Duration;

use acorn_study::collect::Way;
use lettre::message::Mailbox;
use lettre::message::header::ContentType;
use lettre::transport::smtp::authentication::Credentials;
use lettre::transport::smtp::client::{Tls, TlsParameters};
use lettre::{AsyncSmtpTransport, AsyncTransport, Message as Mail, Tokio1Executor};

use super::message::Message;
use super::way;
use crate::bounds::TELLING_MS;

/// Whether the way to a mail server is encrypted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Secrecy {
    /// Never, as within one machine or plant.
    None,
    /// After both have greeted (STARTTLS).
    AfterGreeting,
    /// From the first byte.
    FromTheStart,
}

/// Where e-mail is handed in.
#[derive(Clone, Debug)]
pub struct MailServer {
    /// Its name.
    pub host: String,
    /// Its port.
    pub port: u16,
    /// Whether the way there is encrypted.
    pub secrecy: Secrecy,
    /// Whom messages come from.
    pub from: String,
    /// Name and password, where it asks for them.
    pub login: Option<(String, String)>,
}

/// Tells people.
pub struct Teller {
    web: reqwest::Client,
    mail: Option<MailServer>,
}

impl Teller {
    pub fn new(mail: Option<MailServer>) -> Teller {
        // A web hook that leads elsewhere is not followed: what is told goes to the address that was written down.
        let web = reqwest::Client::builder().timeout(Duration::from_millis(TELLING_MS)).redirect(reqwest::redirect::Policy::none()).build();
        Teller { web: web.unwrap_or_default(), mail }
    }

    /// Tells one addressee; why not, in words.
    pub async fn tell(&self, address: &str, message: &Message) -> Result<(), String> {
        match way(address) {
            Way::Webhook => self.post(address, message).await,
            Way::Mail => self.mail(address, message).await,
        }
    }

    async fn post(&self, address: &str, message: &Message) -> Result<(), String> {
        let answer = self.web.post(address).json(message).send().await.map_err(|error| innermost(&error))?;
        let status = answer.status();
        if status.is_success() { Ok(()) } else { Err(format!("the web hook answered {status}")) }
    }

    async fn mail(&self, address: &str, message: &Message) -> Result<(), String> {
        let Some(server) = &self.mail else {
            return Err("no mail server is set up; start the service with --mail".to_owned());
        };
        let mailbox = |address: &str| address.parse::<Mailbox>().map_err(|error| format!("{address}: {error}"));
        let mail = Mail::builder().from(mailbox(&server.from)?).to(mailbox(address)?).subject(&message.subject);
        let mail = mail.header(ContentType::TEXT_PLAIN).body(message.text()).map_err(|error| error.to_string())?;
        let transport = transport(server).map_err(|error| innermost(&error))?;
        let sent = tokio::time::timeout(Duration::from_millis(TELLING_MS), transport.send(mail)).await;
        match sent {
            Ok(sent) => sent.map(|_| ()).map_err(|error| innermost(&error)),
            Err(_) => Err("the mail server did not answer in time".to_owned()),
        }
    }
}

fn transport(server: &MailServer) -> Result<AsyncSmtpTransport<Tokio1Executor>, lettre::transport::smtp::Error> {
    let tls = match server.secrecy {
        Secrecy::None => Tls::None,
        Secrecy::AfterGreeting => Tls::Required(TlsParameters::new(server.host.clone())?),
        Secrecy::FromTheStart => Tls::Wrapper(TlsParameters::new(server.host.clone())?),
    };
    let builder = AsyncSmtpTransport::<Tokio1Executor>::builder_dangerous(&server.host).port(server.port).tls(tls);
    let builder = builder.timeout(Some(Duration::from_millis(TELLING_MS)));
    Ok(match &server.login {
        Some((name, password)) => builder.credentials(Credentials::new(name.clone(), password.clone())).build(),
        None => builder.build(),
    })
}

/// What is behind an error; the outer ones repeat the address.
fn innermost(error: &dyn std::error::Error) -> String {
    let mut inner = error;
    while let Some(source) = inner.source() {
        inner = source;
    }
    inner.to_string()
}
