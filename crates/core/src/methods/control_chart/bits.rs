//! Yes or no for each point, sixty-four to a word, so that a search costs a few instructions a word.

/// What is asked of each value; NaN has none of these. The first eight are bits of their own in a code of a value.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Fact {
    /// Strictly above the line of this place, 0 to 3.
    Above(usize),
    /// Strictly below the line of this place, 0 to 3.
    Below(usize),
    /// Not missing.
    Present,
    /// Higher than the value before.
    Rises,
    /// Lower than the value before.
    Falls,
}

impl Fact {
    /// Its bit in the code of a value.
    fn bit(self) -> usize {
        match self {
            Fact::Above(line) => line,
            Fact::Below(line) => 4 + line,
            Fact::Present => 8,
            Fact::Rises => 9,
            Fact::Falls => 10,
        }
    }
}

/// One bit a point; bits beyond the last point are 0.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Bits(Vec<u64>);

impl Bits {
    /// The points of which each fact holds; `lines` gives four upper and four lower lines for a point.
    ///
    /// One pass: every value gets a code with a bit for each fact, sixty-four at a time, from which the words are taken.
    /// Blocks have a fixed size, of which the compiler makes vectors; the last one is filled up with NaN.
    pub fn of(values: &[f64], lines: impl Fn(usize) -> [[f64; 4]; 2], facts: &[Fact]) -> Vec<Bits> {
        if let [Fact::Above(up), Fact::Below(down)] = *facts {
            return Bits::beyond(values, lines, up, down).into();
        }
        let mut found: Vec<Bits> = facts.iter().map(|_| Bits(Vec::with_capacity(values.len().div_ceil(64)))).collect();
        let mut before = f64::NAN;
        let mut look = |block: &[f64; 64], start: usize| {
            let words = codes(block, before, |i| lines(start + i)).map(|bytes| columns(&bytes));
            for (fact, bits) in facts.iter().zip(&mut found) {
                bits.0.push(words[fact.bit() / 8][fact.bit() % 8]);
            }
            before = block[63];
        };
        each_block(values, &mut look);
        found
    }

    /// The points beyond one upper and one lower line, which is all that most panels ask.
    fn beyond(values: &[f64], lines: impl Fn(usize) -> [[f64; 4]; 2], up: usize, down: usize) -> [Bits; 2] {
        let mut found = [(); 2].map(|()| Bits(Vec::with_capacity(values.len().div_ceil(64))));
        let mut look = |block: &[f64; 64], start: usize| {
            let (mut above, mut below) = ([0; 64], [0; 64]);
            for i in 0..64 {
                let lines = lines(start + i);
                above[i] = u8::from(block[i] > lines[0][up]);
                below[i] = u8::from(block[i] < lines[1][down]);
            }
            found[0].0.push(gather(&above));
            found[1].0.push(gather(&below));
        };
        each_block(values, &mut look);
        found
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
            run.and_later(step);
            known += step;
        }
        run
    }

    /// Keeps the points that are also there so many earlier. From the last word down, so that earlier ones are still whole.
    fn and_later(&mut self, by: usize) {
        let (words, bits) = (by / 64, by % 64);
        for word in (0..self.0.len()).rev() {
            let low = word.checked_sub(words).map_or(0, |from| self.0[from] << bits);
            let carry = if bits == 0 { 0 } else { word.checked_sub(words + 1).map_or(0, |from| self.0[from] >> (64 - bits)) };
            self.0[word] &= low | carry;
        }
    }
}

/// Calls back with sixty-four values at a time and the place of the first; the last block is filled up with NaN.
fn each_block(values: &[f64], mut look: impl FnMut(&[f64; 64], usize)) {
    let (blocks, rest) = values.as_chunks::<64>();
    blocks.iter().enumerate().for_each(|(place, block)| look(block, 64 * place));
    if !rest.is_empty() {
        let mut last = [f64::NAN; 64];
        last[..rest.len()].copy_from_slice(rest);
        look(&last, values.len() - rest.len());
    }
}

/// The codes of a block, low bytes and high bytes.
fn codes(block: &[f64; 64], before: f64, lines: impl Fn(usize) -> [[f64; 4]; 2]) -> [[u8; 64]; 2] {
    let (mut low, mut high) = ([0; 64], [0; 64]);
    for i in 0..64 {
        let value = block[i];
        let [up, down] = lines(i);
        let code = u64::from(value > up[0])
            | u64::from(value > up[1]) << 1
            | u64::from(value > up[2]) << 2
            | u64::from(value > up[3]) << 3
            | u64::from(value < down[0]) << 4
            | u64::from(value < down[1]) << 5
            | u64::from(value < down[2]) << 6
            | u64::from(value < down[3]) << 7;
        low[i] = code as u8;
    }
    let step =
        |value: f64, before: f64| (u64::from(!value.is_nan()) | u64::from(value > before) << 1 | u64::from(value < before) << 2) as u8;
    high[0] = step(block[0], before);
    for i in 1..64 {
        high[i] = step(block[i], block[i - 1]);
    }
    [low, high]
}

/// The bits of sixty-four bytes, the lowest of all as the first word.
fn columns(bytes: &[u8; 64]) -> [u64; 8] {
    let (eights, _) = bytes.as_chunks::<8>();
    let mut words = [0; 8];
    for (place, eight) in eights.iter().enumerate() {
        let turned = transposed(u64::from_le_bytes(*eight));
        for (bit, word) in words.iter_mut().enumerate() {
            *word |= (turned >> (8 * bit) & 0xff) << (8 * place);
        }
    }
    words
}

/// Eight bytes as rows of a square of bits, turned into its columns (Warren 2013, Hacker's Delight, sec. 7-3).
fn transposed(square: u64) -> u64 {
    let swap = |square: u64, by: u32, mask: u64| {
        let odd = (square ^ square >> by) & mask;
        square ^ odd ^ odd << by
    };
    let pairs = swap(square, 7, 0x00aa_00aa_00aa_00aa);
    let fours = swap(pairs, 14, 0x0000_cccc_0000_cccc);
    swap(fours, 28, 0x0000_0000_f0f0_f0f0)
}

/// Sixty-four flags of 0 or 1 as a word. The multiplication moves the lowest bits of eight bytes, side by side, into the
/// highest byte.
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
        // From the hundredth value on the upper line is out of reach.
        let lines = |i: usize| [[if i < 100 { 59.0 } else { 999.0 }; 4], [71.0; 4]];
        let facts = [Fact::Above(2), Fact::Below(1), Fact::Rises, Fact::Falls, Fact::Present];
        let [from_60, to_70, rises, falls, present] = Bits::of(&values, lines, &facts).try_into().unwrap();
        assert_eq!(points(&from_60), (60..100).collect::<Vec<_>>());
        let from_60 = from_60.and(&to_70);
        assert_eq!(points(&from_60.run_of(9)), [68, 69, 70]);
        assert_eq!(points(&from_60.later(65)), (125..=135).collect::<Vec<_>>());
        assert_eq!(points(&rises), (1..130).collect::<Vec<_>>());
        assert!(points(&falls).is_empty());
        assert_eq!(points(&present), (0..130).collect::<Vec<_>>());
        assert_eq!(points(&rises.run_of(70)).first(), Some(&70));
        assert_eq!(Bits::of(&[], lines, &[Fact::Present]), [Bits::default()]);
    }
}
