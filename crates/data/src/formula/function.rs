//! The functions of a formula.

/// A function.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Function {
    /// Square root.
    Sqrt,
    /// Natural logarithm.
    Ln,
    /// Logarithm to base 10.
    Log10,
    /// e raised.
    Exp,
    /// Sine.
    Sin,
    /// Cosine.
    Cos,
    /// Tangent.
    Tan,
    /// Arc sine.
    Asin,
    /// Arc cosine.
    Acos,
    /// Arc tangent.
    Atan,
    /// Without its sign.
    Abs,
    /// The whole number below.
    Floor,
    /// The whole number above.
    Ceil,
    /// The nearest whole number.
    Round,
    /// The smallest.
    Min,
    /// The largest.
    Max,
    /// The second when the first is not 0, else the third.
    If,
}

/// Most arguments of a function that takes any number of them.
pub const ARGUMENTS_MOST: usize = 100;

impl Function {
    /// All, in the order in which they are offered.
    pub const ALL: [Function; 17] = [
        Function::Sqrt,
        Function::Ln,
        Function::Log10,
        Function::Exp,
        Function::Sin,
        Function::Cos,
        Function::Tan,
        Function::Asin,
        Function::Acos,
        Function::Atan,
        Function::Abs,
        Function::Floor,
        Function::Ceil,
        Function::Round,
        Function::Min,
        Function::Max,
        Function::If,
    ];

    /// Its name in a formula.
    pub fn name(self) -> &'static str {
        match self {
            Function::Sqrt => "sqrt",
            Function::Ln => "ln",
            Function::Log10 => "log10",
            Function::Exp => "exp",
            Function::Sin => "sin",
            Function::Cos => "cos",
            Function::Tan => "tan",
            Function::Asin => "asin",
            Function::Acos => "acos",
            Function::Atan => "atan",
            Function::Abs => "abs",
            Function::Floor => "floor",
            Function::Ceil => "ceil",
            Function::Round => "round",
            Function::Min => "min",
            Function::Max => "max",
            Function::If => "if",
        }
    }

    /// The function of a name.
    pub fn named(name: &str) -> Option<Function> {
        Function::ALL.into_iter().find(|function| function.name() == name)
    }

    /// Fewest and most arguments.
    pub fn arguments(self) -> (usize, usize) {
        match self {
            Function::Min | Function::Max => (1, ARGUMENTS_MOST),
            Function::If => (3, 3),
            _ => (1, 1),
        }
    }

    /// Its value for one argument; what has several is worked out by the program.
    pub fn of(self, x: f64) -> f64 {
        match self {
            Function::Sqrt => x.sqrt(),
            Function::Ln => x.ln(),
            Function::Log10 => x.log10(),
            Function::Exp => x.exp(),
            Function::Sin => x.sin(),
            Function::Cos => x.cos(),
            Function::Tan => x.tan(),
            Function::Asin => x.asin(),
            Function::Acos => x.acos(),
            Function::Atan => x.atan(),
            Function::Abs => x.abs(),
            Function::Floor => x.floor(),
            Function::Ceil => x.ceil(),
            Function::Round => x.round(),
            Function::Min | Function::Max | Function::If => x,
        }
    }
}
