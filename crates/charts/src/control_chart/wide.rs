//! Sixty-four comparisons at once, with the widest instructions that the machine has: chosen while running, so that one
//! build serves every machine.

/// Of each pair of blocks a word with a bit for each place at which the first value is greater; NaN never is.
pub fn greater<'v>(pairs: impl Iterator<Item = (&'v [f64; 64], &'v [f64; 64])>) -> Vec<u64> {
    #[cfg(target_arch = "x86_64")]
    if let Some(machine) = pulp::x86::V3::try_new() {
        return machine.vectorize(fours::Greater { machine, pairs });
    }
    pairs.map(|(a, b)| plain(a, b)).collect()
}

pub fn plain(a: &[f64; 64], b: &[f64; 64]) -> u64 {
    a.iter().zip(b).enumerate().fold(0, |word, (place, (a, b))| word | u64::from(a > b) << place)
}

/// Four values to an instruction (AVX2).
#[cfg(target_arch = "x86_64")]
mod fours {
    use std::arch::x86_64::{__m256d, _CMP_GT_OQ};

    use pulp::x86::V3;
    use pulp::{NullaryFnOnce, cast};

    pub struct Greater<I> {
        pub machine: V3,
        pub pairs: I,
    }

    impl<'v, I: Iterator<Item = (&'v [f64; 64], &'v [f64; 64])>> NullaryFnOnce for Greater<I> {
        type Output = Vec<u64>;

        #[inline(always)]
        fn call(self) -> Vec<u64> {
            let Greater { machine, pairs } = self;
            let mut words = Vec::with_capacity(pairs.size_hint().0);
            for (a, b) in pairs {
                let mut word = 0;
                for (place, (a, b)) in a.as_chunks::<4>().0.iter().zip(b.as_chunks::<4>().0).enumerate() {
                    let (a, b): (__m256d, __m256d) = (cast(*a), cast(*b));
                    let greater = machine.avx._mm256_movemask_pd(machine.avx._mm256_cmp_pd::<_CMP_GT_OQ>(a, b));
                    word |= u64::from(greater.cast_unsigned()) << (4 * place);
                }
                words.push(word);
            }
            words
        }
    }
}
