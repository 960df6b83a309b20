//! Small dense systems: a damped step by Cholesky's method, and the rank, the solution and what is left free
//! by Householder's with columns picked by length (Golub and Van Loan, Matrix Computations, 5.4.2).

/// By rows.
#[derive(Clone, Debug)]
pub struct Matrix {
    pub rows: usize,
    pub columns: usize,
    pub at: Vec<f64>,
}

impl Matrix {
    pub fn zero(rows: usize, columns: usize) -> Matrix {
        Matrix { rows, columns, at: vec![0.0; rows * columns] }
    }

    pub fn row(&self, i: usize) -> &[f64] {
        &self.at[i * self.columns..(i + 1) * self.columns]
    }

    fn get(&self, i: usize, k: usize) -> f64 {
        self.at[i * self.columns + k]
    }
}

/// The step x that makes |A x + b|² + damping·|D x|² least, D² the diagonal of AᵀA.
pub fn damped_step(a: &Matrix, b: &[f64], damping: f64) -> Option<Vec<f64>> {
    let n = a.columns;
    let (mut square, mut right) = (Matrix::zero(n, n), vec![0.0; n]);
    for (i, b) in b.iter().enumerate().take(a.rows) {
        let row = a.row(i);
        for k in (0..n).filter(|k| row[*k] != 0.0) {
            right[k] -= row[k] * b;
            for m in 0..=k {
                square.at[k * n + m] += row[k] * row[m];
            }
        }
    }
    for k in 0..n {
        let own = square.at[k * n + k];
        square.at[k * n + k] = own + damping * own.max(1e-6);
    }
    for k in 0..n {
        for m in 0..=k {
            let mut sum = square.at[k * n + m];
            for j in 0..m {
                sum -= square.at[k * n + j] * square.at[m * n + j];
            }
            if k == m {
                if sum <= 0.0 {
                    return None;
                }
                square.at[k * n + k] = sum.sqrt();
            } else {
                square.at[k * n + m] = sum / square.at[m * n + m];
            }
        }
    }
    for k in 0..n {
        for j in 0..k {
            right[k] -= square.at[k * n + j] * right[j];
        }
        right[k] /= square.at[k * n + k];
    }
    for k in (0..n).rev() {
        for j in k + 1..n {
            right[k] -= square.at[j * n + k] * right[j];
        }
        right[k] /= square.at[k * n + k];
    }
    Some(right)
}

/// What a system of equations settles.
pub struct Ranked {
    pub rank: usize,
    /// A solution of A x = −b, least in its residual; what is free is left at nought.
    pub step: Vec<f64>,
    /// Directions in which the unknowns can move without any equation noticing.
    pub free: Vec<Vec<f64>>,
}

/// Below this share of the largest, what is left of a column is rounding.
const NOTHING: f64 = 1e-9;

pub fn ranked(mut a: Matrix, b: &[f64]) -> Ranked {
    let (m, n) = (a.rows, a.columns);
    let mut right: Vec<f64> = b.iter().map(|v| -v).collect();
    let mut order: Vec<usize> = (0..n).collect();
    let (mut rank, mut largest) = (0, 0.0f64);
    while rank < m.min(n) {
        let length2 = |k: usize| (rank..m).map(|i| a.get(i, k).powi(2)).sum::<f64>();
        let Some(best) = (rank..n).max_by(|&p, &q| length2(p).total_cmp(&length2(q))) else { break };
        let length = length2(best).sqrt();
        largest = largest.max(length);
        if length <= NOTHING * largest || length == 0.0 {
            break;
        }
        if best != rank {
            order.swap(rank, best);
            (0..m).for_each(|i| a.at.swap(i * n + rank, i * n + best));
        }
        // The mirror that lays this column on its first axis.
        let first = a.get(rank, rank);
        let onto = if first > 0.0 { -length } else { length };
        let mut mirror: Vec<f64> = (rank..m).map(|i| a.get(i, rank)).collect();
        mirror[0] -= onto;
        let square: f64 = mirror.iter().map(|v| v * v).sum();
        let reflect = |get: &mut dyn FnMut(usize) -> f64| -> f64 {
            2.0 * mirror.iter().enumerate().map(|(i, v)| v * get(rank + i)).sum::<f64>() / square
        };
        for k in rank..n {
            let by = reflect(&mut |i| a.get(i, k));
            mirror.iter().enumerate().for_each(|(i, v)| a.at[(rank + i) * n + k] -= by * v);
        }
        let by = reflect(&mut |i| right[i]);
        mirror.iter().enumerate().for_each(|(i, v)| right[rank + i] -= by * v);
        rank += 1;
    }
    // Above the diagonal stands what is left: solved from below.
    let solved = |mut right: Vec<f64>| {
        for k in (0..rank).rev() {
            for j in k + 1..rank {
                right[k] -= a.get(k, j) * right[j];
            }
            right[k] /= a.get(k, k);
        }
        right
    };
    let placed = |found: &[f64], own: Option<usize>| {
        let mut out = vec![0.0; n];
        found.iter().zip(&order).for_each(|(v, k)| out[*k] = *v);
        if let Some(k) = own {
            out[order[k]] = 1.0;
        }
        out
    };
    let step = placed(&solved(right[..rank].to_vec()), None);
    let free =
        (rank..n).map(|k| placed(&solved((0..rank).map(|i| -a.get(i, k)).collect()), Some(k))).collect();
    Ranked { rank, step, free }
}
