//! From words to nodes.

use super::function::Function;
use super::table::TableFunction;
use super::token::{Token, Word, tokens};
use super::{Formula, Mistake, Node, Pair, Use, names};

/// Deepest nesting of parentheses, functions, powers and signs.
const DEEPEST: usize = 100;

type Read = Result<usize, Mistake>;

/// What a formula is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Dialect {
    /// Numbers alone, one of each name.
    Numbers,
    /// The columns of a table: words and moments too, and functions that look at other rows.
    Table,
}

/// Reads a formula.
pub fn read(text: &str, about: Dialect) -> Result<Formula, Mistake> {
    let tokens = tokens(text)?;
    let end = text.chars().count();
    let mut reader = Reader { tokens: &tokens, about, at: 0, end, depth: 0, nodes: Vec::new(), uses: Vec::new() };
    if tokens.is_empty() {
        return Err(Mistake { from: 0, to: end, words: "the formula is empty".to_owned() });
    }
    reader.comparison()?;
    match reader.peek() {
        None => Ok(Formula { nodes: reader.nodes, uses: reader.uses }),
        Some(Token { word: Word::Sign(")"), from, to }) => {
            Err(Mistake { from: *from, to: *to, words: "this parenthesis closes none".to_owned() })
        }
        Some(Token { word: Word::Sign(","), from, to }) => {
            Err(Mistake { from: *from, to: *to, words: "a comma parts arguments of a function; a decimal sign is a point".to_owned() })
        }
        Some(token) => Err(Mistake {
            from: token.from,
            to: token.to,
            words: format!("an operator such as + or * is missing before {}", token.display_text()),
        }),
    }
}

impl Token {
    fn display_text(&self) -> String {
        match &self.word {
            Word::Number(number) => format!("{number}"),
            Word::Name(name) => format!("“{name}”"),
            Word::Text(words) => format!("\"{words}\""),
            Word::Sign(sign) => format!("“{sign}”"),
        }
    }
}

struct Reader<'t> {
    tokens: &'t [Token],
    about: Dialect,
    at: usize,
    end: usize,
    depth: usize,
    nodes: Vec<Node>,
    uses: Vec<Use>,
}

impl<'t> Reader<'t> {
    fn peek(&self) -> Option<&'t Token> {
        self.tokens.get(self.at)
    }

    /// The sign that stands here, when it is one of some.
    fn sign(&mut self, among: &[&'static str]) -> Option<&'static str> {
        match self.peek()?.word {
            Word::Sign(sign) if among.contains(&sign) => {
                self.at += 1;
                Some(sign)
            }
            _ => None,
        }
    }

    fn push(&mut self, node: Node) -> usize {
        self.nodes.push(node);
        self.nodes.len() - 1
    }

    /// Pairs of one rank, to the left.
    fn pairs(&mut self, signs: &[(&'static str, Pair)], part: fn(&mut Self) -> Read) -> Read {
        let names: Vec<&'static str> = signs.iter().map(|(sign, _)| *sign).collect();
        let mut left = part(self)?;
        while let Some(sign) = self.sign(&names) {
            let right = part(self)?;
            let pair = signs.iter().find(|(known, _)| *known == sign).map_or(Pair::Add, |(_, pair)| *pair);
            left = self.push(Node::Pair(pair, left, right));
        }
        Ok(left)
    }

    fn comparison(&mut self) -> Read {
        let signs = [
            ("<", Pair::Less),
            ("<=", Pair::LessOrEqual),
            (">", Pair::Greater),
            (">=", Pair::GreaterOrEqual),
            ("=", Pair::Equal),
            ("!=", Pair::Unequal),
        ];
        self.pairs(&signs, Self::sum)
    }

    fn sum(&mut self) -> Read {
        self.pairs(&[("+", Pair::Add), ("-", Pair::Subtract)], Self::product)
    }

    fn product(&mut self) -> Read {
        self.pairs(&[("*", Pair::Multiply), ("/", Pair::Divide)], Self::signed)
    }

    fn signed(&mut self) -> Read {
        match self.sign(&["-", "+"]) {
            Some(sign) => {
                let of = self.deeper(Self::signed)?;
                Ok(if sign == "-" { self.push(Node::Negative(of)) } else { of })
            }
            None => self.power(),
        }
    }

    fn power(&mut self) -> Read {
        let base = self.atom()?;
        if self.sign(&["^"]).is_none() {
            return Ok(base);
        }
        // To the right, and a sign may stand in an exponent.
        let exponent = self.deeper(Self::signed)?;
        Ok(self.push(Node::Pair(Pair::Power, base, exponent)))
    }

    fn deeper(&mut self, part: fn(&mut Self) -> Read) -> Read {
        self.depth += 1;
        if self.depth > DEEPEST {
            let (from, to) = self.peek().map_or((self.end, self.end), |token| (token.from, token.to));
            let words = format!("parts are nested deeper than {DEEPEST}; give an inner part a name of its own");
            return Err(Mistake { from, to, words });
        }
        let read = part(self);
        self.depth -= 1;
        read
    }

    fn atom(&mut self) -> Read {
        let Some(token) = self.peek() else {
            return Err(Mistake { from: self.end, to: self.end, words: "a number or a name is missing at the end".to_owned() });
        };
        self.at += 1;
        match &token.word {
            Word::Number(number) => Ok(self.push(Node::Number(*number))),
            Word::Name(name) if self.sign(&["("]).is_some() => self.call(token, name),
            Word::Name(name) => Ok(self.name(token, name)),
            Word::Text(words) if self.about == Dialect::Table => Ok(self.push(Node::Words(words.clone()))),
            Word::Text(_) => {
                Err(Mistake { from: token.from, to: token.to, words: "this formula computes with numbers, not with words".to_owned() })
            }
            Word::Sign("(") => {
                let inner = self.deeper(Self::comparison)?;
                self.close(token)?;
                Ok(inner)
            }
            Word::Sign(sign) => {
                let words = format!("a number or a name is missing before “{sign}”");
                Err(Mistake { from: token.from, to: token.to, words })
            }
        }
    }

    fn name(&mut self, token: &Token, name: &str) -> usize {
        let known = self.uses.iter().position(|used| used.name == name);
        let place = known.unwrap_or_else(|| {
            self.uses.push(Use { name: name.to_owned(), from: token.from, to: token.to });
            self.uses.len() - 1
        });
        self.push(Node::Name(place))
    }

    fn close(&mut self, opened: &Token) -> Result<(), Mistake> {
        if self.sign(&[")"]).is_some() {
            return Ok(());
        }
        let (from, to) = self.peek().map_or((self.end, self.end), |token| (token.from, token.to));
        let words = match self.peek() {
            None => format!("the parenthesis opened at character {} is not closed", opened.from + 1),
            Some(token) => format!("an operator or “)” is missing before {}", token.display_text()),
        };
        Err(Mistake { from, to, words })
    }

    fn call(&mut self, token: &Token, name: &str) -> Read {
        let function = Function::named(name);
        let of_table = TableFunction::named(name).filter(|_| self.about == Dialect::Table);
        if function.is_none() && of_table.is_none() {
            return Err(Mistake { from: token.from, to: token.to, words: self.no_function(name) });
        }
        let mut parts = Vec::new();
        if self.sign(&[")"]).is_none() {
            loop {
                parts.push(self.deeper(Self::comparison)?);
                if self.sign(&[","]).is_none() {
                    break;
                }
            }
            self.close(token)?;
        }
        let to = self.tokens.get(self.at.saturating_sub(1)).map_or(self.end, |last| last.to);
        let wanted = |wanted: String, have: usize| Mistake { from: token.from, to, words: format!("{wanted}, not {have}") };
        if let Some(of_table) = of_table {
            let (least, most) = of_table.arguments();
            if (least..=most).contains(&parts.len()) {
                return Ok(self.push(Node::Of(of_table, parts)));
            }
            return Err(wanted(format!("{name} is written {}", of_table.written()), parts.len()));
        }
        let function = function.unwrap_or(Function::Abs);
        let (least, most) = function.arguments();
        if (least..=most).contains(&parts.len()) {
            return Ok(self.push(Node::Call(function, parts)));
        }
        let words = match function {
            Function::If => "if takes three: if(condition, then, else)".to_owned(),
            _ if least == most => format!("{name} takes one argument"),
            _ => format!("{name} takes 1 to {most} arguments"),
        };
        Err(wanted(words, parts.len()))
    }

    fn no_function(&self, name: &str) -> String {
        if TableFunction::named(name).is_some() {
            return format!("“{name}” works on the columns of a table only");
        }
        let mut known = Function::ALL.map(Function::name).to_vec();
        if self.about == Dialect::Table {
            known.extend(TableFunction::ALL.map(TableFunction::name));
        }
        let meant = names::nearest(name, &known).map(|near| format!("; is “{near}” meant?"));
        let all = || format!("; there are {}. To multiply, write *", known.join(", "));
        format!("there is no function “{name}”{}", meant.unwrap_or_else(all))
    }
}
