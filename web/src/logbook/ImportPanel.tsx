import { Box, Grid } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { client, type Schemas, take } from "../api/client";
import { Labelled } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

const Sums = ({ title, found }: { title: string; found: Schemas["SummaryOut"] }) => (
  <Box>
    <Box fontWeight="600">
      {title}: {found.name}
    </Box>
    <Box>
      {found.days} days, {found.readings} readings, {found.events} events
      {found.first && `, ${found.first} to ${found.last}`}
    </Box>
    <Box color="soft">{found.stores.join(", ")}</Box>
  </Box>
);

const raw = (text: string) => ({
  body: text as unknown as Record<string, never>,
  bodySerializer: () => text,
  headers: { "Content-Type": "application/json" },
});

/** Brings a file: first shows what it would bring and replace, then does all of it or nothing. */
export const ImportPanel = ({ rig, done }: { rig: number | null; done: (rig: number) => void }) => {
  const [text, setText] = useState<string | null>(null);
  const params = { params: { path: { rig_id: String(rig) } } };
  const preview = useMutation({
    mutationFn: (file: string): Promise<Schemas["Preview"]> =>
      take(
        rig === null
          ? client.POST("/api/imports/preview", raw(file))
          : client.POST("/api/rigs/{rig_id}/import/preview", { ...params, ...raw(file) }),
      ),
  });
  const bring = useMutation({
    mutationFn: (file: string): Promise<Schemas["Imported"]> =>
      take(
        rig === null
          ? client.POST("/api/imports", raw(file))
          : client.POST("/api/rigs/{rig_id}/import", { ...params, ...raw(file) }),
      ),
    onSuccess: (made) => done(made.rig),
  });
  const chosen = async (file: File | undefined) => {
    if (!file) return;
    const read = await file.text();
    setText(read);
    bring.reset();
    preview.mutate(read);
  };
  return (
    <Box display="grid" gap="3">
      <Labelled label="Logbook file (JSON)">
        <input type="file" accept=".json,application/json" onChange={(event) => void chosen(event.target.files?.[0])} />
      </Labelled>
      <Problem error={preview.error} />
      {preview.data && !bring.data && text !== null && (
        <Box bg="sunken" p="3" borderRadius="md">
          <Grid templateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4" mb="3">
            <Sums title="Brings" found={preview.data.brings} />
            {preview.data.replaces && <Sums title="Replaces" found={preview.data.replaces} />}
          </Grid>
          <Plain tone={rig === null ? "strong" : "warn"} disabled={bring.isPending} onClick={() => bring.mutate(text)}>
            {rig === null ? "Bring it as a new rig" : "Replace this rig by it"}
          </Plain>
        </Box>
      )}
      <Problem error={bring.error} />
      {bring.data?.kept && (
        <Box role="status">
          Done. What stood before is kept:{" "}
          <a href={`/api/rigs/${bring.data.rig}/kept/${bring.data.kept}`} download>
            <Box as="span" textDecoration="underline">
              {bring.data.kept}
            </Box>
          </a>
          . Import that file to undo this.
        </Box>
      )}
    </Box>
  );
};
