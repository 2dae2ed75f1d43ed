import { Box, Flex } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { client, type Schemas, take } from "../api/client";
import { useRig } from "../app/rig";
import { Choice, NumberEntry } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import type { StoreDoc } from "./fields";

type Unit = Schemas["RatingIn"]["unit"];

/** A power station in Wh or a power bank in mAh at its cells' volts, as amp-hours at the bank's own volts. */
export const Rating = ({ store, change }: { store: StoreDoc; change: (store: StoreDoc) => void }) => {
  const rig = useRig();
  const [open, setOpen] = useState(false);
  const [amount, setAmount] = useState<number | null>(null);
  const [unit, setUnit] = useState<Unit>("Wh");
  const [cell, setCell] = useState<number | null>(3.7);
  const ask = useMutation({
    mutationFn: (body: Schemas["RatingIn"]) =>
      take(client.POST("/api/rigs/{rig_id}/rating", { params: { path: { rig_id: String(rig) } }, body })),
    onSuccess: (found) => change({ ...store, capacity: found.capacity_ah }),
  });
  if (!open)
    return (
      <Box alignSelf="end">
        <Plain onClick={() => setOpen(true)}>It is rated in Wh or mAh</Plain>
      </Box>
    );
  const atCells = unit === "mAh" || unit === "Ah";
  return (
    <Box gridColumn="1 / -1">
      <Flex gap="3" align="end" wrap="wrap">
        <NumberEntry label="Rated" value={amount} onValue={setAmount} />
        <Choice
          label="In"
          value={unit}
          options={[
            ["Wh", "Wh"],
            ["kWh", "kWh"],
            ["mAh", "mAh"],
            ["Ah", "Ah"],
          ]}
          onValue={(next) => setUnit(next as Unit)}
        />
        {atCells && <NumberEntry label="At its cells' volts" unit="V" value={cell} onValue={setCell} />}
        <Plain
          disabled={amount === null || ask.isPending}
          onClick={() =>
            ask.mutate({ amount: amount ?? 0, unit, nominal_v: store.nominal_v ?? 12, cell_v: atCells ? cell : null })
          }
        >
          Take it as the capacity
        </Plain>
      </Flex>
      <Problem error={ask.error} />
      {ask.data && <Box mt="1">{ask.data.words}</Box>}
    </Box>
  );
};
