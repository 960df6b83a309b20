import { memo, useState } from "react";
import { useDraft } from "../hooks/useDraft";
import { OwnerOf } from "../verbs/Field";
import { SettingList, SettingOne, SettingSentence, useJobFaults } from "../verbs/Settings";
import { JobFigures } from "./JobFigures";
import { ShopMark } from "./ShopMark";
import { Variants } from "./Variants";

/** Whether a fault is of a list as a whole, of the job's head, or of pieces and frames beside one another. */
const ofNoSentence = (path: string) => /^\/(pieces|frames|briefs)\b|^\/[^/]+$/.test(path);

/** Faults that no sentence shows, always in sight. */
export const JobFaults = memo(function JobFaults() {
  const faults = useDraft((d) => d.result?.faults);
  return (faults ?? [])
    .filter((f) => ofNoSentence(f.path))
    .map((f) => (
      <p key={f.path} className="fault" role="alert">
        <b>Stop.</b> {f.message}. <i>{f.mend}.</i>
      </p>
    ));
});

/** Stand in the head of the page. */
const ABOVE = ["/title", "/number"];

/** Settings and named figures of the whole job. */
export const JobSettings = memo(function JobSettings() {
  const [open, setOpen] = useState(false);
  const wrong = useDraft(
    (d) =>
      (d.result?.figures ?? []).filter((f) => f.fault).length +
      (d.result?.faults ?? []).filter((f) => !ofNoSentence(f.path)).length,
  );
  return (
    <details className="job-settings" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>
        Job figures and settings {wrong > 0 && <span className="stop">■ {wrong} to mend</span>}
      </summary>
      {open && <AllSettings />}
    </details>
  );
});

function AllSettings() {
  const faults = useJobFaults("/bend_rule").map((f) => ({ ...f, path: `/bend_rule${f.path}` }));
  return (
    <>
      <div data-setting="job">
        <OwnerOf name="job">
          <SettingSentence tag="job" at="" faults={faults} skip={ABOVE} bare />
        </OwnerOf>
      </div>
      <h3>Figures</h3>
      <JobFigures />
      <h3>Variants</h3>
      <Variants />
      <h3>Sheets on the rack</h3>
      <SettingList tag="sheet" />
      <details>
        <summary>Bend table, test bends and brake</summary>
        <SettingOne tag="brake" />
        <SettingList tag="test_bend" />
        <SettingList tag="table_row" />
      </details>
      <details>
        <summary>Title block of drawings</summary>
        <SettingOne tag="drawings" />
        <ShopMark />
      </details>
      <details>
        <summary>Printers and their true scale</summary>
        <p className="hint">
          Print a template, measure its two lines with a caliper, and write what they came to: templates
          for that printer are drawn so that they come out true.
        </p>
        <SettingList tag="printer" />
      </details>
      <details>
        <summary>Materials of the shop's own</summary>
        <p className="hint">The book's materials are there without this.</p>
        <SettingList tag="material" />
      </details>
      <details>
        <summary>Sections of the shop's own</summary>
        <p className="hint">Outlines by their corners; a bore is cut out of it.</p>
        <SettingList tag="section" />
      </details>
    </>
  );
}
