import { Box, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useLocation, useNavigate } from "react-router";

import { useJoin } from "../api/mutations";
import { invitedQuery } from "../api/queries";
import { keepRig, useMe } from "../api/rig";
import { TextField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { text, z } from "../forms/schema";
import { Notice, Problem, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";

const SCHEMA = z.object({ username: text(150), password: text(500) });
const ROLES: Record<string, string> = {
  crew: "As crew you log and plan.",
  reader: "As a reader you see everything and change nothing.",
};

/** What an invitation opens: come aboard with the account that is signed in, or with a new one. */
export const JoinView = () => {
  const token = useLocation().hash.slice(1);
  const me = useMe();
  const told = useQuery(invitedQuery(token));
  const join = useJoin(token);
  const navigate = useNavigate();
  const enter = async (made: { username: string; password: string } | null) => {
    const known = new Set(me.rigs.map((rig) => rig.id));
    const after = await join.mutateAsync(made);
    const rig = after.rigs.find((each) => !known.has(each.id)) ?? after.rigs[0];
    if (rig) keepRig(rig.id);
    await navigate("/");
  };
  const draft = useDraft({
    schema: SCHEMA,
    values: { username: "", password: "" },
    send: enter,
    holds: false,
    mode: "onSubmit",
  });
  if (told.isPending) return <Waiting what="the invitation" />;
  if (!told.data)
    return (
      <Notice title="This invitation is not good any more.">
        <Box>It was used, or a week is over. Ask for another one.</Box>
      </Notice>
    );
  const { rig, role, by } = told.data;
  return (
    <Box as="section" maxW="26rem" mx="auto" px="4" py="10">
      <Heading as="h1" fontFamily="heading" fontSize="3xl" mb="2">
        Come aboard {rig}
      </Heading>
      <Box color="soft" mb="6">
        {by} invites you. {ROLES[role]}
      </Box>
      {me.username ? (
        <>
          <Plain
            tone="strong"
            minH="12"
            width="100%"
            disabled={join.isPending}
            onClick={() => void enter(null).catch(() => undefined)}
          >
            Come aboard as {me.username}
          </Plain>
          <Problem error={join.error} />
        </>
      ) : (
        <DraftForm of={draft}>
          <Box display="grid" gap="4">
            <Box>Make an account, or sign in with yours first and open this link again.</Box>
            <TextField name="username" size="lg" autoComplete="username" />
            <TextField
              name="password"
              type="password"
              size="lg"
              autoComplete="new-password"
              note="At least eight characters, not a common word."
            />
            <Plain type="submit" tone="strong" minH="12" disabled={draft.form.formState.isSubmitting}>
              Make the account and come aboard
            </Plain>
          </Box>
        </DraftForm>
      )}
    </Box>
  );
};
