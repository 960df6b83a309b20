//! A variant of a job: its figures with other values.

use ground::finding::Patch;
use ground::quantity::Fault;
use ground::said;

use super::Job;

said! {
    /// A set of values that the job is made in beside its own.
    pub struct Variant {
        pub name: String,
        #[serde(default)]
        pub values: Vec<VariantValue>,
    }
}

said! {
    pub struct VariantValue {
        /// Name of a figure of the job.
        pub figure: String,
        pub value: String,
    }
}

impl Variant {
    /// The figures that it tells, by their place in the job; refused where the job does not have one.
    fn told(&self, job: &Job) -> Result<Vec<(usize, &str)>, Fault> {
        let one = |told: &'_ VariantValue| -> Result<usize, Fault> {
            job.figures.iter().position(|f| f.name == told.figure).ok_or_else(|| {
                let known: Vec<&str> = job.figures.iter().map(|f| f.name.as_str()).take(12).collect();
                let mend = if known.is_empty() {
                    "add the figure to the job first".to_string()
                } else {
                    format!("pick from {}", known.join(", "))
                };
                Fault::new(format!("the job has no figure '{}'", told.figure), mend, (0, 0))
            })
        };
        self.values.iter().map(|told| Ok((one(told)?, told.value.as_str()))).collect()
    }

    /// The changes of the job that take its values.
    pub fn patch(&self, job: &Job) -> Result<Vec<Patch>, Fault> {
        let step = |(at, value)| Patch::replace(format!("/figures/{at}/value"), value);
        Ok(self.told(job)?.into_iter().map(step).collect())
    }

    /// The job with its values.
    pub fn of(&self, job: &Job) -> Result<Job, Fault> {
        let mut out = job.clone();
        self.told(job)?.into_iter().for_each(|(at, value)| out.figures[at].value = value.into());
        Ok(out)
    }
}
