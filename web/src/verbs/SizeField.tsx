import { useBook } from "../hooks/useBook";
import { useCalled } from "./Field";
import { Listed } from "./Listed";

interface Props {
  path: string;
  label: string;
  kind: "screw" | "thread";
}

/** The size of a screw or a thread, with the tables behind it. */
export function SizeField({ path, label, kind }: Props) {
  const called = useCalled(label);
  const book = useBook().data;
  const sizes = (kind === "thread" ? book?.threads : book?.screws) ?? [];
  return (
    <Listed path={path} label={called} least={4}>
      {sizes.map((s) => (
        <option key={s.size} value={s.size}>
          {s.said}
        </option>
      ))}
    </Listed>
  );
}
