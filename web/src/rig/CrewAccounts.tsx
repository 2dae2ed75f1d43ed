import { Box, HStack, Input } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, take } from "../api/client";
import { crewQuery } from "../api/queries";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** Who may log on this rig. */
export const CrewAccounts = ({ rig, owner }: { rig: number; owner: boolean }) => {
  const queries = useQueryClient();
  const crew = useQuery(crewQuery(rig));
  const [name, setName] = useState("");
  const path = { rig_id: String(rig) };
  const done = () => {
    setName("");
    return queries.invalidateQueries({ queryKey: crewQuery(rig).queryKey });
  };
  const invite = useMutation({
    mutationFn: () => take(client.POST("/api/rigs/{rig_id}/crew", { params: { path }, body: { username: name } })),
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: (username: string) =>
      take(client.DELETE("/api/rigs/{rig_id}/crew/{username}", { params: { path: { ...path, username } } })),
    onSuccess: done,
  });
  return (
    <Box>
      {crew.data?.map((member) => (
        <HStack key={member.username} py="1">
          <Box>
            {member.username}, {member.role}
          </Box>
          {owner && member.role !== "owner" && (
            <Plain size="sm" onClick={() => remove.mutate(member.username)}>
              Take {member.username} off
            </Plain>
          )}
        </HStack>
      ))}
      {owner && (
        <HStack mt="2" wrap="wrap">
          <Input
            aria-label="Account to put on the crew"
            width="14rem"
            bg="raised"
            borderColor="edge"
            placeholder="account"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Plain disabled={name.trim() === ""} onClick={() => invite.mutate()}>
            Put on the crew
          </Plain>
        </HStack>
      )}
      <Problem error={invite.error ?? remove.error ?? crew.error} />
    </Box>
  );
};
