import { Dialog } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { DayFactsForm, type Field } from "../forms/DayFactsForm";
import { factsWaiting } from "../outbox/waiting";
import { useSetPlan } from "../outbox/writes";
import { useWaiting } from "../outbox/writing";
import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { dateWords } from "../parts/words";
import type { HorizonDay } from "./strip";

const FIELDS: Field[] = ["sky", "place", "status", "temp_min", "temp_max", "crew_aboard", "hours"];

/** Changes the plan of a coming day; every change is kept at once and every lane answers. */
export const DayEditor = ({
  day,
  tempUnit,
  saw,
  where,
  close,
}: {
  day: HorizonDay;
  tempUnit: string;
  saw: number;
  where: Schemas["WhereOut"];
  close: () => void;
}) => {
  const rig = useRig();
  const change = useSetPlan(rig, day.date, saw);
  const waits = factsWaiting(useWaiting(), rig, "plan", day.date);
  const facts = { ...day, place: day.where, ...waits, hours: { ...day.hours, ...waits.hours } };
  return (
    <Over
      open
      close={close}
      title={`Plan for ${dateWords(day.date, true)}`}
      foot={
        <Plain tone="strong" onClick={close}>
          Done
        </Plain>
      }
      size="sm"
      placement="center"
    >
      <Dialog.Body>
        <DayFactsForm
          facts={facts}
          fields={day.panels_covered === null ? FIELDS : [...FIELDS, "panels_covered"]}
          where={where}
          units={{ temp: tempUnit, water: "" }}
          keep={(body) => change.mutateAsync(body)}
        />
      </Dialog.Body>
    </Over>
  );
};
