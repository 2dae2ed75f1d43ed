import { Input } from "@chakra-ui/react";
import { useId, useState } from "react";
import { useController, useFormContext } from "react-hook-form";

import { CATALOGUE, choices, kindOf } from "../api/catalogue";
import { NumberField, type Shown } from "../forms/fields";
import { gaugeOf, markOf, perCent, type RigDoc, type StoreDoc } from "../forms/rig";
import { isUnread, typedNumber, type Unread } from "../forms/typed";
import { Choose } from "../parts/Choose";
import { Labelled } from "../parts/Labelled";

type At = `stores.${number}`;

const parse = (text: string): number[] | Unread => {
  const words = text.split(/[;\s]+|,\s+/).filter(Boolean);
  const numbers = words.map((word) => typedNumber(word.replace(/,$/, "")));
  const bad = numbers.find((number) => typeof number !== "number");
  if (bad !== undefined)
    return { text, problem: isUnread(bad) ? bad.problem : "Write shares of full, such as 0, 0.5, 1." };
  return numbers as number[];
};

const textOf = (marks: number[] | Unread): string => (isUnread(marks) ? marks.text : marks.join(", "));

/** The marks of a panel as shares of full. */
const MarksField = ({ at }: { at: At }) => {
  const { control } = useFormContext();
  const { field, fieldState } = useController({ name: `${at}.gauge.marks`, control });
  const [typing, setTyping] = useState<string | null>(null);
  const id = useId();
  const problem = fieldState.error?.message;
  return (
    <Labelled label="Marks, shares of full" problem={problem} id={id}>
      <Input
        bg="raised"
        borderColor="edge"
        ref={field.ref}
        aria-invalid={problem !== undefined}
        aria-describedby={problem ? id : undefined}
        value={typing ?? textOf(field.value as number[] | Unread)}
        onChange={(event) => {
          setTyping(event.target.value);
          field.onChange(parse(event.target.value));
        }}
        onBlur={() => {
          setTyping(null);
          field.onBlur();
        }}
      />
    </Labelled>
  );
};

/** How a store is read, and what its gauge is: marks may be measured while filling, by the amount at which each lights. */
export const Gauge = ({ at, store, contents, note }: { at: At; store: StoreDoc; contents: Shown; note?: string }) => {
  const { setValue } = useFormContext<RigDoc>();
  const kind = kindOf(store.kind);
  const gauge = store.gauge ?? { kind: "none" as const };
  const options = choices(CATALOGUE.gauges.filter((row) => (kind.gauges as readonly string[]).includes(row.id)));
  const marks = gauge.kind === "steps" && Array.isArray(gauge.marks) ? gauge.marks : [];
  const capacity = typeof store.capacity === "number" ? store.capacity : 0;
  return (
    <>
      <Choose
        label="Gauge"
        note={note}
        value={gauge.kind}
        options={options}
        onValue={(next) => setValue(`${at}.gauge`, gaugeOf(next, kind.usualResolution), { shouldDirty: true })}
      />
      {gauge.kind === "steps" && <MarksField at={at} />}
      {capacity > 0 &&
        marks.map(
          (mark, index) =>
            mark > 0 &&
            mark < 1 && (
              <NumberField
                key={index}
                name={`${at}.gauge.marks.${index}`}
                label={`Measured while filling: mark ${Math.round(mark * 100)} % lights at`}
                shown={markOf(contents, capacity)}
              />
            ),
        )}
      {gauge.kind === "sensor" && (
        <NumberField name={`${at}.gauge.resolution`} label="Steps of the sensor" shown={perCent()} />
      )}
    </>
  );
};
