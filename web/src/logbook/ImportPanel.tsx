import { Box, Grid } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { useImport, usePreview } from "../api/mutations";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { KeptExports } from "./KeptExports";

const Sums = ({ title, of }: { title: string; of: Schemas["SummaryOut"] }) => (
  <Box>
    <Box fontWeight="600">
      {title}: {of.name}
    </Box>
    <Box>{of.words}</Box>
    <Box color="soft">{of.stores.join(", ")}</Box>
  </Box>
);

/** Imports a file: first shows what it would bring and replace, then does all of it or nothing. */
export const ImportPanel = ({ rig, done }: { rig: number | null; done: (rig: number) => void }) => {
  const [text, setText] = useState<string | null>(null);
  const preview = usePreview(rig);
  const load = useImport(rig);
  const chosen = async (file: File | undefined) => {
    if (!file) return;
    const read = await file.text();
    setText(read);
    load.reset();
    preview.mutate(read);
  };
  return (
    <Box display="grid" gap="3">
      <Labelled label="Logbook file (JSON)">
        <input type="file" accept=".json,application/json" onChange={(event) => void chosen(event.target.files?.[0])} />
      </Labelled>
      {preview.isPending && <Box role="status">Reading the file ...</Box>}
      <Problem error={preview.error} />
      {preview.data && !load.data && text !== null && (
        <Box bg="sunken" p="3" borderRadius="md">
          <Grid templateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4" mb="3">
            <Sums title="Brings" of={preview.data.brings} />
            {preview.data.replaces && <Sums title="Replaces" of={preview.data.replaces} />}
          </Grid>
          <Plain
            tone={rig === null ? "strong" : "warn"}
            disabled={load.isPending}
            onClick={() =>
              load.mutate({ file: text, saw: preview.data.revision ?? 0 }, { onSuccess: (made) => done(made.rig) })
            }
          >
            {rig === null ? "Import as a new rig" : "Replace this rig with it"}
          </Plain>
        </Box>
      )}
      <Problem error={load.error} />
      {load.data?.kept && (
        <Box role="status">
          Done. What stood before is kept:{" "}
          <a href={`/api/rigs/${load.data.rig}/kept/${load.data.kept}`} download>
            <Box as="span" textDecoration="underline">
              {load.data.kept}
            </Box>
          </a>
          . It can be undone below.
        </Box>
      )}
      {rig !== null && <KeptExports rig={rig} />}
    </Box>
  );
};
