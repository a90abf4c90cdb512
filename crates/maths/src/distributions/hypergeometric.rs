//! Drawing without putting back.

use super::Law;
use super::chances::ln_binomial;
use crate::normal;

/// From such an sd on a count is drawn by the normal, which is within 1e-4 of its chances; a walk would take long.
const WALKED_MOST: f64 = 1e4;
/// From such an sd on the normal is within 1e-6, and a sum of chances would take too many terms.
const WIDE: f64 = 1e6;

/// Marked ones among those drawn, without putting back.
#[derive(Clone, Copy, Debug)]
pub struct Hypergeometric {
    /// How many there are.
    pub total: f64,
    /// How many of them are marked.
    pub marked: f64,
    /// How many are drawn.
    pub drawn: f64,
}

impl Hypergeometric {
    /// The count that a number evenly drawn from 0 to 1 stands for: chances laid end to end from the likeliest count outwards.
    pub fn drawn_by(&self, even: f64) -> f64 {
        let [least, most] = self.range();
        let middle = self.likeliest();
        if self.sd() > WALKED_MOST {
            let mean = self.drawn * self.marked / self.total;
            return (mean + self.sd() * normal::quantile(even)).round().clamp(least, most);
        }
        let (mut low, mut high) = (middle, middle);
        let top = self.ln_chance(middle).exp();
        let (mut below, mut above) = (top, top);
        let mut left = even - top;
        while left >= 0.0 && (low > least || high < most) {
            if high < most {
                above *= self.rise(high);
                high += 1.0;
                left -= above;
                if left < 0.0 {
                    return high;
                }
            }
            if low > least {
                below /= self.rise(low - 1.0);
                low -= 1.0;
                left -= below;
                if left < 0.0 {
                    return low;
                }
            }
            // What rounding has left over belongs nowhere far out.
            if above.max(below) < 1e-18 {
                break;
            }
        }
        middle
    }

    /// The chance of a count and one more over that of the count.
    fn rise(&self, count: f64) -> f64 {
        let Hypergeometric { total, marked, drawn } = *self;
        (marked - count) * (drawn - count) / ((count + 1.0) * (total - marked - drawn + count + 1.0))
    }

    /// The chance of a count over that of its neighbour towards the middle, summed outwards from a count.
    fn tail(&self, count: f64, outwards: f64) -> f64 {
        let [least, most] = self.range();
        let (mut at, mut one, mut sum) = (count, 1.0, 1.0);
        while (least..=most).contains(&(at + outwards)) && one > 1e-17 * sum {
            one *= if outwards > 0.0 { self.rise(at) } else { 1.0 / self.rise(at - 1.0) };
            sum += one;
            at += outwards;
        }
        (self.ln_chance(count).exp() * sum).min(1.0)
    }

    fn normal(&self, count: f64) -> f64 {
        let mean = self.drawn * self.marked / self.total;
        (count - mean) / self.sd()
    }
}

impl Law for Hypergeometric {
    fn ln_chance(&self, count: f64) -> f64 {
        let Hypergeometric { total, marked, drawn } = *self;
        if total == 0.0 {
            return 0.0;
        }
        let p = drawn / total;
        ln_binomial(count, marked, p) + ln_binomial(drawn - count, total - marked, p) - ln_binomial(drawn, total, p)
    }

    fn range(&self) -> [f64; 2] {
        [(self.drawn + self.marked - self.total).max(0.0), self.drawn.min(self.marked)]
    }

    fn likeliest(&self) -> f64 {
        let [least, most] = self.range();
        ((self.drawn + 1.0) * (self.marked + 1.0) / (self.total + 2.0)).floor().clamp(least, most)
    }

    fn sd(&self) -> f64 {
        let part = self.marked / self.total;
        (self.drawn * part * (1.0 - part) * (self.total - self.drawn) / (self.total - 1.0).max(1.0)).sqrt()
    }

    fn at_most(&self, count: f64) -> f64 {
        let [least, most] = self.range();
        match count {
            c if c < least => 0.0,
            c if c >= most => 1.0,
            c if self.sd() > WIDE => normal::below(self.normal(c + 0.5)),
            c if c <= self.likeliest() => self.tail(c, -1.0),
            c => 1.0 - self.tail(c + 1.0, 1.0),
        }
    }

    fn at_least(&self, count: f64) -> f64 {
        let [least, most] = self.range();
        match count {
            c if c > most => 0.0,
            c if c <= least => 1.0,
            c if self.sd() > WIDE => normal::above(self.normal(c - 0.5)),
            c if c >= self.likeliest() => self.tail(c, 1.0),
            c => 1.0 - self.tail(c - 1.0, -1.0),
        }
    }
}
