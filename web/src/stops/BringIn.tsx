import { Box, HStack, Input } from "@chakra-ui/react";
import { type ChangeEvent, useState } from "react";

import { useAsk, useTell } from "../api/asked";
import { useRole } from "../api/rig";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { counted } from "../parts/words";

const FORMATS = [
  ["geojson", "GeoJSON"],
  ["gpx", "GPX"],
  ["csv", "CSV"],
] as const;

/** Places from a file, looked at before they are kept; and the book as a file. */
export const BringIn = ({ rig }: { rig: number }) => {
  const [preview, bring] = [
    useAsk(rig, "post", "/places/preview", (text: string) => ({ body: { text, format: null } })),
    useTell(rig, "post", "/places/import", (text: string) => ({ body: { text, format: null } })),
  ];
  const [text, setText] = useState<string | null>(null);
  const { writes } = useRole();
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    bring.reset();
    if (!file) return;
    const read = await file.text();
    setText(read);
    preview.mutate(read);
  };
  const keep = () =>
    text !== null &&
    bring.mutate(text, {
      onSuccess: () => {
        setText(null);
        preview.reset();
      },
    });
  return (
    <Box>
      {writes && (
        <Labelled
          label="From a GeoJSON, GPX or CSV file"
          note="OpenStreetMap's tags are understood. You see what it holds before anything is kept."
        >
          <Input
            type="file"
            accept=".geojson,.json,.gpx,.csv,application/geo+json,application/gpx+xml,text/csv"
            p="1.5"
            bg="raised"
            borderColor="edge"
            onChange={(event) => void choose(event)}
          />
        </Labelled>
      )}
      <Problem error={preview.error ?? bring.error} />
      {preview.data && (
        <Box mt="3" bg="sunken" p="3" borderRadius="md" aria-live="polite" data-part="places-preview">
          <Box fontWeight="600">
            {preview.data.format}: {preview.data.words}
          </Box>
          <Box as="ul" pl="5" listStyleType="disc" fontSize="sm">
            {preview.data.lines.map((line, index) => (
              <li key={index}>
                {line.name}: {line.known ? "in the book already" : line.words}
              </li>
            ))}
          </Box>
          {preview.data.more > 0 && <Box fontSize="sm">and {counted(preview.data.more, "more", "more")}</Box>}
          {preview.data.skipped.map((line) => (
            <Box key={line} color="warn" fontSize="sm">
              {line}
            </Box>
          ))}
          <HStack mt="2">
            <Plain tone="strong" disabled={bring.isPending} onClick={keep}>
              Put into the book
            </Plain>
            <Plain onClick={() => preview.reset()}>Leave it</Plain>
          </HStack>
        </Box>
      )}
      <Box role="status" mt="2">
        {bring.data?.words}
      </Box>
      <HStack mt="3" wrap="wrap">
        <Box color="soft">The book as</Box>
        {FORMATS.map(([format, name]) => (
          <Plain key={format} asChild>
            <a href={`/api/rigs/${rig}/places/export?format=${format}`} download={`places.${format}`}>
              {name}
            </a>
          </Plain>
        ))}
      </HStack>
    </Box>
  );
};
