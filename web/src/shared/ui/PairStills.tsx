import type { TakeHomePage } from "../../api/records";
import { datedDay } from "../format/days";
import { t } from "../format/language";

type Props = {
  pair: NonNullable<TakeHomePage["pair"]>;
  /** The address of the pictures: `before` and `now` are below it. */
  from: string;
};

/** One moment before and now as pictures, with the differences. */
export function PairStills({ pair, from }: Props) {
  const sides = [
    { id: "before", name: t("common-before"), ball: pair.before_ball, day: pair.before_day },
    { id: "now", name: t("common-now"), ball: pair.now_ball, day: pair.now_day },
  ];
  return (
    <section className="clear-both mb-4 break-inside-avoid">
      <h3 className="mb-1 text-lg font-bold">{t("common-before-now-2", { moment: pair.moment_name })}</h3>
      <div className="grid grid-cols-2 gap-3">
        {sides.map((side) => (
          <figure key={side.id}>
            <img
              src={`${from}/${side.id}`}
              alt={t("common-swing-picture", { side: side.name })}
              className="aspect-video w-full bg-rule object-contain"
            />
            <figcaption className="text-sm text-soft">
              {[side.name, side.ball === null ? "" : t("common-ball-5", { ball: side.ball }), datedDay(side.day)]
                .filter(Boolean)
                .join(", ")}
            </figcaption>
          </figure>
        ))}
      </div>
      {pair.lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </section>
  );
}
