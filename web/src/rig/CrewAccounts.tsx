import { Box, HStack } from "@chakra-ui/react";
import { zodResolver } from "@hookform/resolvers/zod";
import { useQuery } from "@tanstack/react-query";
import { FormProvider, useForm } from "react-hook-form";

import { useDismiss, useInvite } from "../api/mutations";
import { crewQuery } from "../api/queries";
import { TextField } from "../forms/fields";
import { place } from "../forms/refusal";
import { text, z } from "../forms/schema";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

const SCHEMA = z.object({ username: text(150) });

const Invite = ({ rig }: { rig: number }) => {
  const invite = useInvite(rig);
  const form = useForm({ resolver: zodResolver(SCHEMA), defaultValues: { username: "" } });
  const send = form.handleSubmit(async ({ username }) => {
    try {
      await invite.mutateAsync(username.trim());
      form.reset();
    } catch (error) {
      place(error, ["username"], form.setError);
    }
  });
  return (
    <FormProvider {...form}>
      <form noValidate onSubmit={(event) => void send(event)}>
        <HStack mt="2" wrap="wrap" align="start">
          <Box width="14rem">
            <TextField name="username" label="Account to add" />
          </Box>
          <Plain type="submit" mt="6" disabled={form.formState.isSubmitting}>
            Add to the crew
          </Plain>
        </HStack>
        <Problem error={form.formState.errors.root?.server?.message} />
      </form>
    </FormProvider>
  );
};

/** Who may log on this rig. */
export const CrewAccounts = ({ rig, owner }: { rig: number; owner: boolean }) => {
  const crew = useQuery(crewQuery(rig));
  const dismiss = useDismiss(rig);
  return (
    <Box>
      {crew.data?.map((member) => (
        <HStack key={member.username} py="1">
          <Box>
            {member.username}, {member.role}
          </Box>
          {owner && member.role !== "owner" && (
            <Plain size="sm" onClick={() => dismiss.mutate(member.username)}>
              Remove {member.username}
            </Plain>
          )}
        </HStack>
      ))}
      {owner && <Invite rig={rig} />}
      <Problem error={dismiss.error ?? crew.error} />
    </Box>
  );
};
