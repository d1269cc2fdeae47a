type Option = readonly [value: string, label: string];

const options = (of: readonly Option[]) =>
  of.map(([value, label]) => (
    <option key={value} value={value}>
      {label}
    </option>
  ));

/** A labelled choice out of a list, or out of a list in groups. */
export const Choose = ({
  label,
  value,
  onChange,
  options: plain = [],
  groups = [],
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  options?: readonly Option[];
  groups?: readonly { readonly label: string; readonly options: readonly Option[] }[];
}) => (
  <label className="text-[15px]">
    <span className="font-semibold">{label}</span>
    <select className="field mt-1 w-full" value={value} onChange={(e) => onChange(e.target.value)}>
      {options(plain)}
      {groups.map((g) => (
        <optgroup key={g.label} label={g.label}>
          {options(g.options)}
        </optgroup>
      ))}
    </select>
  </label>
);
