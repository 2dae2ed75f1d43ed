import { Box, Heading, Input } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { client, type Schemas, take } from "../api/client";
import { meQuery } from "../api/queries";
import { Labelled } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** Signing in; on a new server making the first account; in demo mode a door to the demo. */
export const SignIn = ({ me }: { me: Schemas["Me"] }) => {
  const queries = useQueryClient();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const entered = (next: Schemas["Me"]) => queries.setQueryData(meQuery.queryKey, next);
  const body = { username, password };
  const signIn = useMutation({
    mutationFn: () =>
      take(me.first ? client.POST("/api/account/first", { body }) : client.POST("/api/account/sign-in", { body })),
    onSuccess: entered,
  });
  const demo = useMutation({ mutationFn: () => take(client.POST("/api/account/demo")), onSuccess: entered });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate();
  };
  return (
    <Box as="main" maxW="26rem" mx="auto" px="4" pt={{ base: "10", md: "20" }} pb="10">
      <Heading as="h1" fontFamily="heading" fontSize="4xl" fontWeight="600">
        Lodeline
      </Heading>
      <Box color="soft" mb="8">
        How long your rig can stay, and what sends it away.
      </Box>
      {me.demo && (
        <Box mb="8" pb="8" borderBottomWidth="1px" borderColor="rule">
          <Plain tone="strong" width="100%" minH="12" onClick={() => demo.mutate()} disabled={demo.isPending}>
            Enter the demo
          </Plain>
          <Box fontSize="sm" color="soft" mt="2">
            Two made-up rigs with sixty days of log. Nothing in it touches your own data.
          </Box>
          <Problem error={demo.error} />
        </Box>
      )}
      <form onSubmit={submit}>
        <Box display="grid" gap="4">
          {me.first && <Box>This server has no account yet. The first one is yours.</Box>}
          <Labelled label="Account">
            <Input
              bg="raised"
              borderColor="edge"
              size="lg"
              autoComplete="username"
              required
              value={username}
              onChange={(event) => setUsername(event.target.value)}
            />
          </Labelled>
          <Labelled label="Password" note={me.first ? "At least eight characters, not a common word." : undefined}>
            <Input
              bg="raised"
              borderColor="edge"
              size="lg"
              type="password"
              autoComplete={me.first ? "new-password" : "current-password"}
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </Labelled>
          <Plain type="submit" tone={me.demo ? "plain" : "strong"} minH="12" disabled={signIn.isPending}>
            {me.first ? "Make the account" : "Sign in"}
          </Plain>
          <Problem error={signIn.error} />
        </Box>
      </form>
    </Box>
  );
};
