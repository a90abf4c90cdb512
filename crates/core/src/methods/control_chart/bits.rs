//! Yes or no for each point, sixty-four to a word, so that a search costs a few instructions a word.

/// One bit a point; bits beyond the last point are 0.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Bits(Vec<u64>);

impl Bits {
    /// The points whose value has a property that NaN has not.
    pub fn of(values: &[f64], holds: impl Fn(f64) -> bool) -> Bits {
        Bits::of_two(values, values, |value, _| holds(value))
    }

    /// The points that have a property together with the point before; never the first.
    pub fn of_pairs(values: &[f64], holds: impl Fn(f64, f64) -> bool) -> Bits {
        let later = values.get(1..).unwrap_or_default();
        let mut bits = Bits::of_two(&values[..later.len()], later, holds);
        // A pair is counted at its later point, which may need one word more.
        bits.0.resize(values.len().div_ceil(64), 0);
        bits.later(1)
    }

    /// The points whose two values have a property together. Whole blocks of 64 have a fixed size, of which the compiler makes vectors; the rest is filled up with NaN.
    pub fn of_two(a: &[f64], b: &[f64], holds: impl Fn(f64, f64) -> bool) -> Bits {
        let word = |a: &[f64; 64], b: &[f64; 64]| {
            let mut flags = [0; 64];
            for i in 0..64 {
                flags[i] = u8::from(holds(a[i], b[i]));
            }
            gather(&flags)
        };
        let ((a, a_rest), (b, b_rest)) = (a.as_chunks::<64>(), b.as_chunks::<64>());
        let mut words: Vec<u64> = a.iter().zip(b).map(|(a, b)| word(a, b)).collect();
        if !a_rest.is_empty() {
            words.push(word(&filled_up(a_rest), &filled_up(b_rest)));
        }
        Bits(words)
    }

    /// The words, points 0 to 63 first, lowest bit first.
    pub fn words(&self) -> &[u64] {
        &self.0
    }

    /// Each bit moved to a point so many later.
    pub fn later(&self, by: usize) -> Bits {
        let (words, bits) = (by / 64, by % 64);
        let at = |word: Option<usize>| word.and_then(|word| self.0.get(word)).copied().unwrap_or(0);
        let moved = |word: usize| {
            let low = at(word.checked_sub(words)) << bits;
            let carry = if bits == 0 { 0 } else { at(word.checked_sub(words + 1)) >> (64 - bits) };
            low | carry
        };
        Bits((0..self.0.len()).map(moved).collect())
    }

    /// Points in both.
    pub fn and(&self, other: &Bits) -> Bits {
        Bits(self.0.iter().zip(&other.0).map(|(a, b)| a & b).collect())
    }

    /// Points in this one but not in the other.
    pub fn and_not(&self, other: &Bits) -> Bits {
        Bits(self.0.iter().zip(&other.0).map(|(a, b)| a & !b).collect())
    }

    /// Points in either.
    pub fn or(&self, other: &Bits) -> Bits {
        Bits(self.0.iter().zip(&other.0).map(|(a, b)| a | b).collect())
    }

    /// Points that end a row of at least `length` bits. Doubles what it knows: log2(length) steps.
    pub fn run_of(&self, length: usize) -> Bits {
        let mut run = self.clone();
        let mut known = 1;
        while known < length {
            let step = known.min(length - known);
            run = run.and(&run.later(step));
            known += step;
        }
        run
    }
}

fn filled_up(rest: &[f64]) -> [f64; 64] {
    let mut block = [f64::NAN; 64];
    block[..rest.len()].copy_from_slice(rest);
    block
}

/// Sixty-four flags of 0 or 1 as a word. The multiplication moves the lowest bits of eight bytes, side by side,
/// into the highest byte.
fn gather(flags: &[u8; 64]) -> u64 {
    let (eights, _) = flags.as_chunks::<8>();
    let byte = |eight: &[u8; 8]| u64::from_le_bytes(*eight).wrapping_mul(0x0102_0408_1020_4080) >> 56;
    eights.iter().enumerate().fold(0, |word, (place, eight)| word | byte(eight) << (8 * place))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn points(bits: &Bits) -> Vec<usize> {
        (0..bits.0.len() * 64).filter(|i| bits.0[i / 64] >> (i % 64) & 1 == 1).collect()
    }

    #[test]
    fn bits_cross_the_edge_of_a_word() {
        let values: Vec<f64> = (0..130).map(f64::from).collect();
        let from_60 = Bits::of(&values, |value| (60.0..=70.0).contains(&value));
        assert_eq!(points(&from_60), (60..=70).collect::<Vec<_>>());
        assert_eq!(points(&from_60.run_of(9)), [68, 69, 70]);
        assert_eq!(points(&from_60.later(65)), (125..=130).map(|i| i.min(135)).chain(131..=135).collect::<Vec<_>>());
        assert_eq!(points(&Bits::of_pairs(&values, |a, b| b > a)), (1..130).collect::<Vec<_>>());
        assert_eq!(points(&Bits::of_pairs(&values[..64], |a, b| b > a)).last(), Some(&63));
        assert_eq!(Bits::of_pairs(&[], |_, _| true), Bits::default());
    }
}
