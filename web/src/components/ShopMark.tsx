import { useRef, useState } from "react";
import { said } from "../api/client";
import { keepFile } from "../api/files";
import { writeJob } from "../document/bench";
import { draft } from "../document/draft";
import { useDocument } from "../hooks/useDraft";
import { Act } from "../verbs/Act";

const AT = "/drawings/mark";
/** Heavier ones would make every drawing as heavy: the server leaves them out. */
const MOST = 1 << 20;

/** Why a file is no mark; empty where it is one. */
async function unfit(file: File): Promise<string> {
  if (!["image/png", "image/jpeg"].includes(file.type)) return "is neither a PNG nor a JPEG";
  if (file.size > MOST) return "is larger than 1 MB";
  return createImageBitmap(file).then(
    (picture) => {
      picture.close();
      return "";
    },
    () => "cannot be read as a picture",
  );
}

/** The shop's mark, which stands in the corner of the title block. */
export function ShopMark() {
  const mark = useDocument((d) => d.job?.drawings?.mark);
  const [lost, setLost] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const bring = async (file: File) => {
    const why = await unfit(file);
    if (why) return draft.setState({ word: `${file.name} ${why}: the mark stays as it was` });
    try {
      const kept = await keepFile(file);
      writeJob(AT, { file: kept.digest, name: file.name });
    } catch (e) {
      draft.setState({ word: `the mark is not kept: ${said(e)}` });
    }
  };
  return (
    <p className="shop-mark">
      <input
        ref={input}
        type="file"
        hidden
        accept=".png,.jpg,.jpeg"
        aria-label="picture of the shop's mark"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void bring(file);
          e.target.value = "";
        }}
      />
      {mark && lost !== mark.file && (
        <img
          src={`/api/files/${mark.file}`}
          alt={`mark of the shop: ${mark.name}`}
          onError={() => setLost(mark.file)}
        />
      )}
      {mark && lost === mark.file && (
        <span className="stop">
          This server does not keep {mark.name}: drawings say that it is not at hand. Bring it in again.
        </span>
      )}
      <Act onClick={() => input.current?.click()}>
        {mark ? "another mark" : "+ mark of the shop (PNG, JPEG)"}
      </Act>
      {mark && (
        <Act aria-label="take out the mark of the shop" onClick={() => writeJob(AT, undefined)}>
          ×
        </Act>
      )}
    </p>
  );
}
