import { Box, Heading } from "@chakra-ui/react";
import { type ReactNode, useCallback, useState } from "react";
import { useNavigate } from "react-router";

import { useChangePassword, useDeleteAccount } from "../api/mutations";
import { keepReader, type Reader, reader } from "../api/reader";
import { useMe } from "../api/rig";
import { TextField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { text, z } from "../forms/schema";
import { Choose } from "../parts/Choose";
import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";
import { SignOut } from "./SignOut";

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb="8" maxW="30rem">
    <Heading as="h2" size="lg" fontFamily="heading" mb="3" pb="1" borderBottomWidth="1px" borderColor="rule">
      {title}
    </Heading>
    {children}
  </Box>
);

const CHOICES = {
  clock: [
    ["auto", "as this browser does"],
    ["24", "20:15"],
    ["12", "8:15 pm"],
  ],
  dates: [
    ["auto", "as this browser does"],
    ["day", "Thu 3 Dec"],
    ["month", "Thu, Dec 3"],
  ],
  numbers: [
    ["auto", "as this browser does"],
    ["point", "1,234.5"],
    ["comma", "1.234,5"],
    ["space", "1 234,5"],
  ],
} as const;
const LABELS = { clock: "Time of day", dates: "Dates", numbers: "Numbers" } as const;

/** How this device writes numbers, dates and times; every sentence follows, so everything is fetched anew. */
const Writing = () => {
  const now = reader();
  const choose = (name: keyof Reader) => (value: string) => {
    keepReader({ ...now, [name]: value });
    window.location.reload();
  };
  return (
    <Box display="grid" gap="3">
      {(Object.keys(CHOICES) as (keyof Reader)[]).map((name) => (
        <Choose key={name} label={LABELS[name]} value={now[name]} options={CHOICES[name]} onValue={choose(name)} />
      ))}
    </Box>
  );
};

const PASSWORDS = z.object({ password: text(500), new_password: text(500) });

const Password = () => {
  const change = useChangePassword();
  const draft = useDraft({
    schema: PASSWORDS,
    values: { password: "", new_password: "" },
    send: async (typed, form) => {
      await change.mutateAsync(typed);
      form.reset();
    },
    holds: false,
    mode: "onSubmit",
  });
  return (
    <DraftForm of={draft}>
      <Box display="grid" gap="3">
        <TextField name="password" label="Password now" type="password" autoComplete="current-password" />
        <TextField
          name="new_password"
          label="New password"
          type="password"
          autoComplete="new-password"
          note="At least eight characters, not a common word."
        />
        <Plain type="submit" disabled={draft.form.formState.isSubmitting}>
          Change the password
        </Plain>
        {change.isSuccess && <Box role="status">The password is changed. Other devices are signed out.</Box>}
      </Box>
    </DraftForm>
  );
};

const ONE = z.object({ password: text(500) });

const Delete = () => {
  const [open, setOpen] = useState(false);
  const remove = useDeleteAccount();
  const navigate = useNavigate();
  const draft = useDraft({
    schema: ONE,
    values: { password: "" },
    send: async ({ password }) => {
      await remove.mutateAsync(password);
      await navigate("/");
    },
    holds: false,
    mode: "onSubmit",
  });
  if (!open)
    return (
      <Plain tone="warn" onClick={() => setOpen(true)}>
        Delete this account ...
      </Plain>
    );
  return (
    <DraftForm of={draft}>
      <Box display="grid" gap="3">
        <Box>
          What this account logged stays with its rigs. A rig of which it is the only owner must first get another
          owner, or be deleted.
        </Box>
        <TextField name="password" label="Password, to be sure" type="password" autoComplete="current-password" />
        <Plain type="submit" tone="warn" disabled={draft.form.formState.isSubmitting}>
          Delete this account for good
        </Plain>
        <Plain onClick={() => setOpen(false)}>Keep it</Plain>
      </Box>
    </DraftForm>
  );
};

export const AccountView = () => {
  const me = useMe();
  const [leaving, setLeaving] = useState(false);
  const stay = useCallback(() => setLeaving(false), []);
  useTitle("Account");
  return (
    <Box maxW="60rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }} mb="6">
        {me.username}
      </Heading>
      <Box mb="8">
        <Plain onClick={() => setLeaving(true)}>Sign out</Plain>
        {leaving && <SignOut account={me.username ?? ""} close={stay} />}
      </Box>
      <Part title="How this device writes">
        <Writing />
      </Part>
      <Part title="Password">
        <Password />
      </Part>
      <Part title="Delete">
        <Delete />
      </Part>
    </Box>
  );
};
