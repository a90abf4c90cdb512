//! The command line: one specification in, one answer out; a server that starts, stops and keeps.

use std::io::{BufRead, BufReader, Write};
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};

use serde_json::{Value, json};

fn acorn(arguments: &[&str]) -> Command {
    let mut command = Command::new(env!("CARGO_BIN_EXE_acorn-dial"));
    command.args(arguments);
    command
}

fn run(spec: &Value, folder: &Path, more: &[&str]) -> Output {
    let file = folder.join("spec.json");
    std::fs::write(&file, spec.to_string()).unwrap();
    acorn(&["run", file.to_str().unwrap()]).args(more).output().unwrap()
}

fn chart_of(data: Value) -> Value {
    json!({"method": "control-chart", "roles": {"measure": "flux"}, "options": {"chart": "individuals"}, "data": data})
}

#[test]
fn a_case_is_answered_with_verdict_notes_and_numbers() {
    let case = Path::new(env!("CARGO_MANIFEST_DIR")).join("../core/tests/cases/control-chart/individuals.json");
    let output = acorn(&["run", case.to_str().unwrap()]).output().unwrap();
    assert!(output.status.success() && output.stderr.is_empty());
    let answer: Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(answer["verdict"]["title"], "Not steady");
    assert_eq!(answer.pointer("/numbers/panels/0/phases/0/center"), Some(&json!(2.404335)));
    assert_eq!(answer.pointer("/numbers/panels/1/points/0/value"), Some(&Value::Null));
    assert_eq!(answer["notes"][0]["letter"], "a");
    assert_eq!(answer.get("timing"), None);
}

#[test]
fn data_come_from_a_file_beside_the_specification_and_can_be_timed() {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("flux.csv"), "lamp;flux\n1;812,5\n2;810,25\n3;811\n").unwrap();
    let output = run(&chart_of(json!({"file": "flux.csv"})), folder.path(), &["--repeat", "3"]);
    let answer: Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(answer.pointer("/numbers/panels/0/points/1/value"), Some(&json!(810.25)));
    let seconds = |name: &str| answer["timing"][name].as_f64().unwrap();
    assert!(seconds("best_seconds") > 0.0 && seconds("best_seconds") <= seconds("median_seconds"));
}

#[test]
fn a_model_runs_in_the_shell_and_its_input_follows_a_column_of_a_file() {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("lab.csv"), "converter;efficiency\n1;90,5\n2;91,5\n3;92,5\n").unwrap();
    let model = json!({
        "method": "simulation",
        "options": {
            "inputs": [{"name": "eta", "distribution": "data", "column": "efficiency"}],
            "responses": [{"name": "loss", "formula": "100 - eta", "usl": 9}],
            "draws": 3000,
        },
        "data": {"file": "lab.csv"},
    });
    let output = run(&model, folder.path(), &[]);
    let answer: Value = serde_json::from_slice(&output.stdout).unwrap();
    let share = answer.pointer("/numbers/responses/0/out/total").and_then(Value::as_f64).unwrap();
    assert!((share - 1.0 / 3.0).abs() < 0.05, "{share}");
    let mut wrong = model.clone();
    wrong["options"]["responses"][0]["formula"] = json!("100 - eto");
    let output = run(&wrong, folder.path(), &[]);
    assert_eq!(output.status.code(), Some(2));
    assert!(String::from_utf8(output.stderr).unwrap().contains("“loss”, at character 7: nothing is called “eto”; is “eta” meant?"));
}

#[test]
fn what_is_wrong_goes_to_stderr_as_one_object_with_exit_code_2() {
    let folder = tempfile::tempdir().unwrap();
    let wrong = [
        (json!({"method": "pie", "data": {"columns": {}}}), "unknown-method"),
        (chart_of(json!({"columns": {"glow": [1.0]}})), "unknown-column"),
        (chart_of(json!({"columns": {"flux": ["a"]}})), "wrong-kind"),
        (chart_of(json!({"columns": {"flux": []}})), "too-few-values"),
        (chart_of(json!({"file": "gone.csv"})), "unreadable-file"),
        (chart_of(json!({"dataset": 1})), "no-data"),
        (json!([1, 2]), "bad-specification"),
    ];
    for (spec, code) in wrong {
        let output = run(&spec, folder.path(), &[]);
        assert_eq!(output.status.code(), Some(2), "{spec}");
        assert!(output.stdout.is_empty());
        let problem: Value = serde_json::from_slice(&output.stderr).unwrap();
        assert_eq!(problem["type"], format!("/problems/{code}"));
        assert!(problem["advice"].as_str().unwrap().ends_with('.'));
    }
}

struct Server {
    child: Child,
    address: String,
}

impl Server {
    fn start(data: &Path, demo: bool) -> Server {
        let mut command = acorn(&["serve", "--listen", "127.0.0.1:0", "--data", data.to_str().unwrap()]);
        let mut child = command.args(demo.then_some("--demo")).stdout(Stdio::piped()).spawn().unwrap();
        let mut lines = BufReader::new(child.stdout.take().unwrap()).lines();
        let first = lines.next().unwrap().unwrap();
        let address = first.rsplit("http://").next().unwrap().to_owned();
        assert!(lines.next().unwrap().unwrap().starts_with("Data are kept in "));
        Server { child, address }
    }

    /// A request by hand: the whole answer as text.
    fn ask(&self, method: &str, path: &str) -> String {
        let mut stream = std::net::TcpStream::connect(&self.address).unwrap();
        write!(stream, "{method} {path} HTTP/1.1\r\nHost: {}\r\nConnection: close\r\n\r\n", self.address).unwrap();
        std::io::read_to_string(stream).unwrap()
    }

    fn stop(mut self) {
        let killed = Command::new("kill").arg(self.child.id().to_string()).status().unwrap();
        assert!(killed.success());
        assert!(self.child.wait().unwrap().success(), "SIGTERM ends the server without an error");
    }
}

#[test]
fn a_second_start_keeps_what_was_made_and_demo_data_do_not_come_back() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("deep/data");
    let first = Server::start(&data, true);
    assert!(first.ask("GET", "/api/wall").contains("\"lens thickness\""));
    assert!(first.ask("DELETE", "/api/datasets/1").starts_with("HTTP/1.1 204"));
    first.stop();
    let second = Server::start(&data, true);
    // Two that write into one folder would not know of each other's changes.
    let mut third = acorn(&["serve", "--listen", "127.0.0.1:0", "--data", data.to_str().unwrap()]);
    let mut third = third.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap();
    // It ends without a word, else it serves and is ended here.
    let served = BufReader::new(third.stdout.take().unwrap()).lines().next();
    served.is_some().then(|| third.kill().unwrap());
    let third = third.wait_with_output().unwrap();
    assert_eq!(third.status.code(), Some(1), "{served:?}");
    assert!(String::from_utf8_lossy(&third.stderr).contains("another Acorn Dial holds"), "{third:?}");
    let datasets = second.ask("GET", "/api/datasets");
    assert!(datasets.contains("Beam flux, final test") && !datasets.contains("Lens thickness, press 2"));
    second.stop();
}

#[test]
fn a_backup_is_made_while_served_and_opens_as_it_was() {
    let folder = tempfile::tempdir().unwrap();
    let [data, restored] = ["data", "restored"].map(|name| folder.path().join(name));
    std::fs::create_dir(&restored).unwrap();
    let copy = restored.join("acorn.sqlite");
    let backup = |data: &Path| acorn(&["backup", "--data", data.to_str().unwrap(), copy.to_str().unwrap()]).output().unwrap();
    let nothing = backup(&folder.path().join("nowhere"));
    assert!(!nothing.status.success() && String::from_utf8_lossy(&nothing.stderr).contains("there are no data in"), "{nothing:?}");
    let server = Server::start(&data, true);
    assert!(server.ask("DELETE", "/api/datasets/1").starts_with("HTTP/1.1 204"));
    let made = backup(&data);
    assert!(made.status.success(), "{made:?}");
    assert!(server.ask("DELETE", "/api/datasets/2").starts_with("HTTP/1.1 204"));
    server.stop();
    let again = backup(&data);
    assert!(!again.status.success() && String::from_utf8_lossy(&again.stderr).contains("is there already"), "{again:?}");
    let server = Server::start(&restored, false);
    assert!(server.ask("GET", "/api/datasets/2").starts_with("HTTP/1.1 200"));
    assert!(server.ask("GET", "/api/datasets/1").starts_with("HTTP/1.1 404"));
    server.stop();
}

#[test]
fn other_machines_are_let_in_only_on_purpose() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().to_str().unwrap();
    for open in [["--listen", "0.0.0.0:0"], ["--gauges", "0.0.0.0:0"]] {
        let refused = acorn(&[&["serve", "--data", data][..], &open[..]].concat()).output().unwrap();
        let said = String::from_utf8_lossy(&refused.stderr).into_owned();
        assert!(!refused.status.success() && said.contains("say --allow-remote NAME"), "{said}");
    }
    let mut served = acorn(&["serve", "--data", data, "--listen", "0.0.0.0:0", "--allow-remote", "dial.test"]);
    let mut served = served.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap();
    // Nobody reads a second line: that does not end it.
    let first = BufReader::new(served.stdout.take().unwrap()).lines().next().unwrap().unwrap();
    let port: u16 = first.rsplit(':').next().unwrap().parse().unwrap();
    let ask = |host: &str| {
        let mut stream = std::net::TcpStream::connect(("127.0.0.1", port)).unwrap();
        write!(stream, "GET /api/datasets HTTP/1.1\r\nHost: {host}\r\nConnection: close\r\n\r\n").unwrap();
        std::io::read_to_string(stream).unwrap()
    };
    let answers = ["dial.test:7311", "127.0.0.1", "evil.test"].map(|host| ask(host).split(' ').nth(1).unwrap_or_default().to_owned());
    served.kill().unwrap();
    let said = String::from_utf8_lossy(&served.wait_with_output().unwrap().stderr).into_owned();
    assert_eq!(answers, ["200", "200", "403"]);
    assert!(said.contains("Other machines are let in at"), "{said}");
}

#[test]
fn an_address_in_use_is_said_in_words() {
    let taken = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let folder = tempfile::tempdir().unwrap();
    let output = acorn(&["serve", "--listen", &taken.local_addr().unwrap().to_string(), "--data", folder.path().to_str().unwrap()])
        .output()
        .unwrap();
    assert_eq!(output.status.code(), Some(1));
    assert!(String::from_utf8_lossy(&output.stderr).contains("is it in use? Choose another with --listen"));
}

#[test]
fn what_cannot_be_set_up_is_said_before_anything_is_served() {
    let folder = tempfile::tempdir().unwrap();
    let serve = |more: &[&str]| {
        let output = acorn(&["serve", "--listen", "127.0.0.1:0", "--data", folder.path().to_str().unwrap()]).args(more).output().unwrap();
        (output.status.code(), String::from_utf8_lossy(&output.stderr).into_owned())
    };
    for (more, words) in [
        (&["--mail", "mail.test"][..], "--mail mail.test lacks its port, such as :587"),
        (&["--mail", "mail.test:smtp"], "smtp is no port"),
        (&["--mail", "mail.test:25", "--mail-login", "dial"], "ACORN_DIAL_MAIL_PASSWORD is not set"),
    ] {
        let (code, said) = serve(more);
        assert_eq!(code, Some(1));
        assert!(said.contains(words), "{said}");
    }
    assert_eq!(serve(&["--tell-again", "0"]).0, Some(2), "it would tell without end");
}

/// A conversation by hand, as RFC 5321 has it: what is stuffed with dots arrives without, and a message that is refused can be sent again.
#[test]
fn the_receiver_that_is_not_there_takes_mail_and_web_hooks_and_refuses_as_often_as_it_is_told() {
    let any = "127.0.0.1:0";
    let mut child = acorn(&["receiver", "--web", any, "--mail", any, "--refuse", "2"]).stdout(Stdio::piped()).spawn().unwrap();
    let mut said = BufReader::new(child.stdout.take().unwrap()).lines();
    let mut next = || -> Value { serde_json::from_str(&said.next().unwrap().unwrap()).unwrap() };
    let at = next();
    let mut stream = std::net::TcpStream::connect(at["mail"].as_str().unwrap()).unwrap();
    let mut answers = BufReader::new(stream.try_clone().unwrap()).lines();
    let mut talk = |line: &str| {
        if !line.is_empty() {
            write!(stream, "{line}\r\n").unwrap();
        }
        answers.next().unwrap().unwrap()
    };
    let text = "Subject: late\r\n\r\n..and one more\r\n.";
    let steps = [
        ("", "220"),
        ("EHLO bench", "250"),
        ("MAIL FROM:<dial@a.test>", "250"),
        ("RCPT TO:<mara@a.test>", "250"),
        ("RCPT TO:<jonas@a.test>", "250"),
        ("DATA", "354"),
        (text, "451"),
        ("DATA", "354"),
        (text, "451"),
        ("VRFY mara", "502"),
        ("DATA", "354"),
        (text, "250"),
        ("QUIT", "221"),
    ];
    for (line, code) in steps {
        let answer = talk(line);
        assert!(answer.starts_with(code), "{line}: {answer}");
    }
    let mail = next();
    assert_eq!((&mail["from"], &mail["to"]), (&json!("dial@a.test"), &json!(["mara@a.test", "jonas@a.test"])));
    assert_eq!(mail["lines"], json!(["Subject: late", "", ".and one more"]));
    let web = at["web"].as_str().unwrap().trim_start_matches("http://").to_owned();
    let mut stream = std::net::TcpStream::connect(&web).unwrap();
    let body = r#"{"subject":"late"}"#;
    write!(stream, "POST /any HTTP/1.1\r\nHost: {web}\r\nConnection: close\r\nContent-Length: {}\r\n\r\n{body}", body.len()).unwrap();
    assert!(std::io::read_to_string(stream).unwrap().starts_with("HTTP/1.1 204"));
    assert_eq!(next(), json!({"by": "web hook", "message": {"subject": "late"}}));
    child.kill().unwrap();
    child.wait().unwrap();
}

/// Files come in, more rows and columns behind them, and go out again, without a browser.
#[test]
fn tables_come_in_grow_and_go_out() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();
    let data = path("data");
    let shell = |arguments: &[&str]| {
        let output = acorn(&[arguments, &["--data", &data]].concat()).output().unwrap();
        (output.status.success(), String::from_utf8(output.stdout).unwrap() + &String::from_utf8(output.stderr).unwrap())
    };
    std::fs::write(path("may.csv"), "lamp;flux\n1;812,5\n2;810,25\n").unwrap();
    std::fs::write(path("june.csv"), "lamp;flux;bench\n3;811;A\n4;bright;B\n").unwrap();
    let (done, said) = shell(&["import", &path("may.csv"), "--name", "Flux"]);
    assert!(done && said.contains("2 rows are in dataset 1, “Flux”"), "{said}");
    let (done, said) = shell(&["import", &path("june.csv"), "--to", "Flux"]);
    assert!(!done && said.contains("“bright”") && said.contains("--unfit-as-missing"), "{said}");
    let (done, said) = shell(&["import", &path("june.csv"), "--to", "1", "--unfit-as-missing", "--new-columns"]);
    assert!(done && said.contains("which has 4 rows now"), "{said}");
    let (done, said) = shell(&["import", &path("june.csv"), "--to", "Gap"]);
    assert!(!done && said.contains("there is no dataset “Gap”"), "{said}");
    // Mends are remembered for the next file of the layout, which can be read as it seems all the same.
    std::fs::write(path("reels.csv"), "made;reel;checked at;dim\nDE;7;03.04.2026;1\n;8;05.04.2026;2\n").unwrap();
    let import_overrides = ["--date-order", "month-first", "--fill-down", "made", "--kind", "reel=text", "--rename", "dim=dim LEDs"];
    let (done, said) = shell(&[&["import", &path("reels.csv"), "--name", "Mended"][..], &import_overrides].concat());
    assert!(done, "{said}");
    let (done, said) = shell(&["import", &path("reels.csv"), "--name", "Again"]);
    assert!(done && said.contains("Read as shell read the last file of this layout."), "{said}");
    let (done, said) = shell(&["import", &path("reels.csv"), "--name", "Seems", "--as-it-seems"]);
    assert!(done && !said.contains("Read as"), "{said}");
    for (name, text) in [
        ("Mended", "made,reel,checked at,dim LEDs\nDE,7,2026-03-04 00:00,1\nDE,8,2026-05-04 00:00,2\n"),
        ("Again", "made,reel,checked at,dim LEDs\nDE,7,2026-03-04 00:00,1\nDE,8,2026-05-04 00:00,2\n"),
        ("Seems", "made,reel,checked at,dim\nDE,7,2026-04-03 00:00,1\n,8,2026-04-05 00:00,2\n"),
    ] {
        let (done, said) = shell(&["export", name, &path(&format!("{name}.csv"))]);
        assert!(done, "{said}");
        assert_eq!(std::fs::read_to_string(path(&format!("{name}.csv"))).unwrap(), text, "{name}");
    }
    let (done, said) = shell(&["import", &path("reels.csv"), "--leave-out", "angle"]);
    assert!(!done && said.contains("the file has no column “angle”"), "{said}");
    for ending in ["csv", "json", "xlsx", "parquet"] {
        let (done, said) = shell(&["export", "Flux", &path(&format!("out.{ending}"))]);
        assert!(done && said.starts_with("4 rows of “Flux” are in"), "{said}");
    }
    assert_eq!(std::fs::read_to_string(path("out.csv")).unwrap(), "lamp,flux,bench\n1,812.5,\n2,810.25,\n3,811,A\n4,,B\n");
    let (done, said) = shell(&["export", "Flux", &path("out.csv")]);
    assert!(!done && said.contains("is there already"), "{said}");
    let (done, said) = shell(&["export", "Flux", &path("out.pie")]);
    assert!(!done && said.contains(".parquet"), "{said}");
}
