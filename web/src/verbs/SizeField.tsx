import { useBook } from "../hooks/useBook";
import { Val } from "./Field";

interface Props {
  path: string;
  label: string;
  kind: "screw" | "thread";
}

/** The size of a screw or a thread, with the tables behind it. */
export function SizeField({ path, label, kind }: Props) {
  const book = useBook().data;
  const sizes = kind === "thread" ? book?.threads : book?.screws;
  return <Val path={path} label={label} options={sizes?.map((s) => [s.size, s.said]) ?? []} words />;
}
