import { Box, Heading } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useEnterDemo, useSignIn } from "../api/mutations";
import { TextField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { text, z } from "../forms/schema";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

const SCHEMA = z.object({ username: text(150), password: text(1000), code: z.string() });

const Demo = () => {
  const enter = useEnterDemo();
  return (
    <Box mb="8" pb="8" borderBottomWidth="1px" borderColor="rule">
      <Plain tone="strong" width="100%" minH="12" onClick={() => enter.mutate()} disabled={enter.isPending}>
        Enter the demo
      </Plain>
      <Box fontSize="sm" color="soft" mt="2">
        Two made-up rigs with sixty days of log. Nothing in it touches your own data.
      </Box>
      <Problem error={enter.error} />
    </Box>
  );
};

/** Signing in; on a new server making the first account; in demo mode a door to the demo. */
export const SignIn = ({ me }: { me: Schemas["Me"] }) => {
  const enter = useSignIn(me.first);
  const draft = useDraft({
    schema: SCHEMA,
    values: { username: "", password: "", code: "" },
    send: (typed) => enter.mutateAsync(typed),
    holds: false,
    mode: "onSubmit",
  });
  return (
    <Box as="main" maxW="26rem" mx="auto" px="4" pt={{ base: "10", md: "20" }} pb="10">
      <Heading as="h1" fontFamily="heading" fontSize="4xl" fontWeight="600">
        Lodeline
      </Heading>
      <Box color="soft" mb="8">
        How long your rig can stay, and what sends it away.
      </Box>
      {me.demo && <Demo />}
      <DraftForm of={draft}>
        <Box display="grid" gap="4">
          {me.first && <Box>This server has no account yet. The first one is yours.</Box>}
          <TextField name="username" size="lg" autoComplete="username" />
          <TextField
            name="password"
            type="password"
            size="lg"
            autoComplete={me.first ? "new-password" : "current-password"}
            note={me.first ? "At least eight characters, not a common word." : undefined}
          />
          {me.code && (
            <TextField
              name="code"
              size="lg"
              autoComplete="off"
              note="The terminal in which Lodeline was started shows it."
            />
          )}
          <Plain
            type="submit"
            tone={me.demo ? "plain" : "strong"}
            minH="12"
            disabled={draft.form.formState.isSubmitting}
          >
            {me.first ? "Make the account" : "Sign in"}
          </Plain>
        </Box>
      </DraftForm>
    </Box>
  );
};
