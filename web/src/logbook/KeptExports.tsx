import { Box, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";

import { get, useTell } from "../api/asked";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { momentWords } from "../parts/words";

/** What stood before each import: to be put back as it was, or to be downloaded. */
export const KeptExports = ({ rig }: { rig: number }) => {
  const kept = useQuery(get(rig, "/kept"));
  const queries = useQueryClient();
  const undo = useTell(rig, "post", "/import/undo", (saw: number) => ({ query: { saw } }));
  // the rig's name may come back with it, and that stands in the header
  const putBack = (saw: number) => undo.mutate(saw, { onSuccess: () => queries.invalidateQueries() });
  if (!kept.data) return <Problem error={kept.error} />;
  const { exports, can_undo, revision } = kept.data;
  if (exports.length === 0 && !can_undo) return null;
  return (
    <Box mt="5">
      <Box as="h3" fontWeight="600" mb="1">
        Kept before imports
      </Box>
      {can_undo && (
        <Box mb="3">
          <Box mb="2">
            What the last import replaced can be put back as it was, with everything typed, assumed and forecast. What
            stands now is kept in its place, so that this can be undone too.
          </Box>
          <Plain disabled={undo.isPending} onClick={() => putBack(revision)}>
            Undo the last import
          </Plain>
          <Problem error={undo.error} />
        </Box>
      )}
      <Box as="ul" aria-label="Exports made before imports" listStyleType="none">
        {exports.map((each) => (
          <Flex as="li" key={each.name} gap="3" py="1" wrap="wrap" borderTopWidth="1px" borderColor="rule">
            <Box minW="12rem">{momentWords(each.at)}</Box>
            <a href={`/api/rigs/${rig}/kept/${each.name}`} download aria-label={`Download of ${momentWords(each.at)}`}>
              <Box as="span" textDecoration="underline">
                Download
              </Box>
            </a>
            <Box color="soft">{each.size}</Box>
          </Flex>
        ))}
      </Box>
    </Box>
  );
};
