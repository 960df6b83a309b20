//! A variant of a job: its figures with other values.

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
    /// The job with its values; refused where it names a figure that the job does not have.
    pub fn of(&self, job: &Job) -> Result<Job, Fault> {
        let mut out = job.clone();
        for told in &self.values {
            let Some(figure) = out.figures.iter_mut().find(|f| f.name == told.figure) else {
                let known: Vec<&str> = job.figures.iter().map(|f| f.name.as_str()).take(12).collect();
                let mend = if known.is_empty() {
                    "add the figure to the job first".to_string()
                } else {
                    format!("pick from {}", known.join(", "))
                };
                return Err(Fault::new(format!("the job has no figure '{}'", told.figure), mend, (0, 0)));
            };
            figure.value = told.value.clone();
        }
        Ok(out)
    }
}
