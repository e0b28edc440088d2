type Props = { titles: readonly string[] };

/** Column headers of a table. */
export function TableHead({ titles }: Props) {
  return (
    <thead className="text-sm text-soft">
      <tr className="border-b border-ink">
        {titles.map((title) => (
          <th key={title} scope="col" className="py-1 pr-4 align-bottom font-medium">
            {title}
          </th>
        ))}
      </tr>
    </thead>
  );
}
