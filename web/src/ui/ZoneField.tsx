import { useId } from "react";
import { Field } from "./Field";

const ZONES = Intl.supportedValuesOf("timeZone");

type Props = { label: string; value: string; change: (zone: string) => void; empty?: string; error?: string };

/** A time zone by its IANA name, found by typing a part of it. */
export function ZoneField({ label, value, change, empty, error }: Props) {
  const id = useId();
  return (
    <>
      <Field
        label={label}
        list={id}
        placeholder={empty ?? "Europe/Madrid"}
        value={value}
        onChange={(e) => change(e.currentTarget.value)}
        error={error}
        autoComplete="off"
      />
      <datalist id={id}>
        {ZONES.map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
    </>
  );
}
