import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { type Changes, ownKey, type Row, withRow } from "./changes";
import { keyOf, nameOf, type Shipped, shippedRows, type Table } from "./tables";

type Props = {
  table: Table;
  shipped: Shipped;
  changes: Changes;
  opened: string | undefined;
  mayEdit: boolean;
  onOpen: (key: string) => void;
  onChange: (changes: Changes) => void;
};

/** A new entry of the academy, to be filled in. */
const blankOf = (table: Table): Row | undefined =>
  (
    ({
      check: {
        label: t("knowledge-new-check"),
        question: t("knowledge-what-do-check"),
        moment: "impact",
        view: "any",
        seconds: 12,
        grades: ["sound", "not-sound"],
        speaks: {},
      },
      drill: {
        name: t("knowledge-new-drill"),
        faults: [],
        school: "",
        object: "none",
        kit: [],
        setup: t("knowledge-how-stand-what-set-up"),
        cue: t("knowledge-one-thing-think"),
        mark: t("knowledge-what-coach-looks"),
        fake: t("knowledge-common-fake"),
        wanted: t("knowledge-first-sign-ball"),
        ugly: t("knowledge-what-may-see-first"),
        matchups: [],
        regions: [],
        stages: ["feel", "rehearse", "chip", "half", "three-quarter", "full"],
        home: true,
        cautions: [],
      },
    }) as Partial<Record<Table, Row>>
  )[table];

/** The entries of one section; changed and own ones are marked. */
export function Entries({ table, shipped, changes, opened, mayEdit, onOpen, onChange }: Props) {
  const rows = shippedRows(table, shipped);
  const mine = changes[table] ?? {};
  const own = Object.entries(mine).filter(([key]) => key.startsWith("own-"));
  const blank = blankOf(table);

  function add() {
    if (!blank) return;
    const key = ownKey(String(blank.label ?? blank.name), Object.keys(mine));
    const row = table === "drill" ? { ...blank, faults: [shipped.shipped_causes[0]?.id ?? ""] } : blank;
    onChange(withRow(changes, table, key, row));
    onOpen(key);
  }
  return (
    <div>
      <ul
        className="max-h-[62vh] overflow-y-auto border border-rule bg-sheet"
        aria-label={t("knowledge-entries")}
        tabIndex={0}
      >
        {[...rows.map((r): [string, Row] => [keyOf(r), { ...r, ...mine[keyOf(r)] }]), ...own].map(([key, row]) => (
          <li key={key}>
            <button
              type="button"
              aria-current={key === opened}
              onClick={() => onOpen(key)}
              className={`flex min-h-11 w-full items-center justify-between gap-3 border-b border-rule px-3 text-left hover:bg-paper ${key === opened ? "bg-straw-ground" : ""}`}
            >
              <span>{nameOf(table, row)}</span>
              <span className="text-sm text-soft">
                {key.startsWith("own-") ? t("knowledge-own") : key in mine ? t("knowledge-changed") : ""}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {mayEdit && blank && (
        <Button className="mt-3" onClick={add}>
          {table === "check" ? t("knowledge-own-check") : t("knowledge-own-drill")}
        </Button>
      )}
    </div>
  );
}
