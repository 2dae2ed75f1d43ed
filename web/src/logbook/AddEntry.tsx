import { Box, HStack, Input, NativeSelect } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, take } from "../api/client";
import { roundQuery } from "../api/queries";
import { Problem } from "../parts/Notice";
import { typedNumber } from "../parts/number";
import { Plain } from "../parts/Plain";

/** Logs a reading or an event on an earlier day, such as a fill that was forgotten. */
export const AddEntry = ({ rig, date }: { rig: number; date: string }) => {
  const queries = useQueryClient();
  const round = useQuery(roundQuery(rig));
  const [what, setWhat] = useState("");
  const [text, setText] = useState("");
  const [time, setTime] = useState("12:00");
  const params = { params: { path: { rig_id: String(rig) } } };
  const stores = round.data?.stores ?? [];
  const acts = round.data?.acts ?? [];
  const offset = round.data?.now.slice(19) ?? "Z";
  const act = acts.find((each) => each.label === what);
  const { value: number, problem } = typedNumber(act ? text : "");
  const add = useMutation({
    mutationFn: async () => {
      const at = `${date}T${time}:00${offset.replace(/^\.\d+/, "")}`;
      if (!act) return take(client.POST("/api/rigs/{rig_id}/readings", { ...params, body: { store: what, text, at } }));
      const body = { type: act.type, at, store: act.store, full: act.type === "fill" && number === null };
      const amount =
        act.needs === "hours"
          ? { hours: number ?? 1 }
          : act.needs === "count"
            ? { count: number ?? 1 }
            : act.needs === "amount"
              ? { amount: number }
              : {};
      return take(client.POST("/api/rigs/{rig_id}/events", { ...params, body: { ...body, ...amount } }));
    },
    onSuccess: async () => {
      setText("");
      await queries.invalidateQueries({ queryKey: ["rig", rig] });
    },
  });
  return (
    <Box mt="2">
      <HStack wrap="wrap">
        <NativeSelect.Root width="14rem">
          <NativeSelect.Field
            aria-label="What to add"
            bg="raised"
            borderColor="edge"
            value={what}
            onChange={(event) => setWhat(event.target.value)}
          >
            <option value="">Add to this day ...</option>
            {stores.map((store) => (
              <option key={store.id} value={store.id}>
                Reading of {store.name}
              </option>
            ))}
            {acts.map((each) => (
              <option key={each.label} value={each.label}>
                {each.label}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
        {what !== "" && (
          <>
            <Input
              aria-label="Time"
              type="time"
              width="8rem"
              bg="raised"
              borderColor="edge"
              value={time}
              onChange={(event) => setTime(event.target.value)}
            />
            {(!act || act.needs) && (
              <Input
                aria-label={act ? `Amount, ${act.unit ?? ""}` : "Reading"}
                width="9rem"
                bg="raised"
                borderColor="edge"
                placeholder={act ? (act.unit ?? "") : "72%, 2/3, 45 L"}
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
            )}
            <Plain
              tone="strong"
              disabled={add.isPending || problem !== null || (!act && text.trim() === "")}
              onClick={() => add.mutate()}
            >
              Add
            </Plain>
          </>
        )}
      </HStack>
      <Problem error={problem ?? add.error} />
    </Box>
  );
};
