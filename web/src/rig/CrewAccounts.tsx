import { Box, chakra, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { get, useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { useDeleteRig, useLeaveRig } from "../api/mutations";
import { useMe } from "../api/rig";
import { Choose, Select } from "../parts/Choose";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { momentWords } from "../parts/words";

const ROLES = [
  ["crew", "crew: logs and plans"],
  ["reader", "reader: sees, changes nothing"],
  ["owner", "owner: changes what is aboard"],
] as const;
const INVITED = ROLES.slice(0, 2);

/** A QR code, as rows of modules. */
const Code = ({ rows }: { rows: readonly string[] }) => {
  const path = rows
    .flatMap((row, y) => [...row].map((dark, x) => (dark === "1" ? `M${x + 4},${y + 4}h1v1h-1z` : "")))
    .join("");
  const size = rows.length + 8;
  return (
    <chakra.svg
      role="img"
      aria-label="The link as a QR code"
      viewBox={`0 0 ${size} ${size}`}
      width="180px"
      height="180px"
      bg="code.paper"
    >
      <chakra.path d={path} fill="code.ink" shapeRendering="crispEdges" />
    </chakra.svg>
  );
};

/** What was made and not used yet, each to be ended. */
const OpenInvitations = ({ rig }: { rig: number }) => {
  const open = useQuery(get(rig, "/invitations"));
  const end = useTell(rig, "delete", "/invitations/{invitation_id}", (invitation_id: number) => ({
    path: { invitation_id },
  }));
  if (!open.data?.length) return <Problem error={open.error} />;
  return (
    <Box mt="3">
      <Box fontWeight="600">Open invitations</Box>
      <Box as="ul" listStyleType="none">
        {open.data.map((each) => (
          <HStack as="li" key={each.id} py="1" wrap="wrap">
            <Box>
              as {each.role}, by {each.by}, until {momentWords(each.expires)}
            </Box>
            <Plain size="sm" disabled={end.isPending} onClick={() => end.mutate(each.id)}>
              End it
            </Plain>
          </HStack>
        ))}
      </Box>
      <Problem error={end.error} />
    </Box>
  );
};

/** A link or a code by which somebody comes aboard. */
const Invite = ({ rig }: { rig: number }) => {
  const [role, setRole] = useState<Schemas["InviteIn"]["role"]>("crew");
  const invite = useTell(rig, "post", "/invitations", (role: Schemas["InviteIn"]["role"]) => ({ body: { role } }));
  return (
    <Box mt="3">
      <HStack wrap="wrap" align="end">
        <Box width="16rem">
          <Choose label="Invite as" value={role ?? "crew"} options={INVITED} onValue={(value) => setRole(value)} />
        </Box>
        <Plain disabled={invite.isPending} onClick={() => invite.mutate(role)}>
          Make a link
        </Plain>
      </HStack>
      <Problem error={invite.error} />
      {invite.data && (
        <Box role="status" mt="3">
          <Box wordBreak="break-all" mb="2">
            {window.location.origin}
            {invite.data.path}
          </Box>
          <Code rows={invite.data.code} />
          <Box color="soft" fontSize="sm" mt="1">
            It works once, until {momentWords(invite.data.expires)}.
          </Box>
        </Box>
      )}
      <OpenInvitations rig={rig} />
    </Box>
  );
};

/** Deletes the rig for good, after an export, by its name. */
const Delete = ({ rig, name }: { rig: number; name: string }) => {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const remove = useDeleteRig(rig);
  const navigate = useNavigate();
  if (!open)
    return (
      <Plain tone="warn" onClick={() => setOpen(true)}>
        Delete this rig ...
      </Plain>
    );
  return (
    <Box bg="sunken" borderRadius="md" p="3" maxW="30rem">
      <Box mb="2">
        The rig and its whole log go, for everybody aboard. First keep its{" "}
        <a href={`/api/rigs/${rig}/export`} download>
          <Box as="span" textDecoration="underline">
            logbook file
          </Box>
        </a>
        : with it the rig can be made again.
      </Box>
      <Labelled label={`Write its name to be sure: ${name}`}>
        <chakra.input
          width="100%"
          bg="raised"
          borderWidth="1px"
          borderColor="edge"
          px="2"
          py="1.5"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </Labelled>
      <HStack mt="2" wrap="wrap">
        <Plain
          tone="warn"
          disabled={typed.trim() !== name || remove.isPending}
          onClick={() => remove.mutate(typed, { onSuccess: () => void navigate("/") })}
        >
          Delete it for good
        </Plain>
        <Plain onClick={() => setOpen(false)}>Keep it</Plain>
      </HStack>
      <Problem error={remove.error} />
    </Box>
  );
};

const Leave = ({ rig }: { rig: number }) => {
  const [sure, setSure] = useState(false);
  const leave = useLeaveRig(rig);
  const navigate = useNavigate();
  if (!sure) return <Plain onClick={() => setSure(true)}>Leave this crew ...</Plain>;
  return (
    <Box>
      <HStack wrap="wrap">
        <Plain
          tone="warn"
          disabled={leave.isPending}
          onClick={() => leave.mutate(undefined, { onSuccess: () => void navigate("/") })}
        >
          Leave for good
        </Plain>
        <Plain onClick={() => setSure(false)}>Stay</Plain>
      </HStack>
      <Problem error={leave.error} />
    </Box>
  );
};

const Member = ({ rig, member, owns }: { rig: number; member: Schemas["CrewOut"]; owns: boolean }) => {
  const dismiss = useTell(rig, "delete", "/crew/{username}", (username: string) => ({ path: { username } }));
  const setRole = useTell(rig, "put", "/crew/{username}", ({ username, role }: { username: string; role: string }) => ({
    path: { username },
    body: { role },
  }));
  const me = useMe().username;
  return (
    <Box as="li" py="1">
      <HStack wrap="wrap">
        <Box minW="8rem">{member.username}</Box>
        {owns && member.username !== me ? (
          <>
            <Select
              aria-label={`Role of ${member.username}`}
              width="16rem"
              value={member.role}
              options={ROLES}
              onChange={(event) => setRole.mutate({ username: member.username, role: event.target.value })}
            />
            <Plain size="sm" onClick={() => dismiss.mutate(member.username)}>
              Remove {member.username}
            </Plain>
          </>
        ) : (
          <Box color="soft">{ROLES.find(([role]) => role === member.role)?.[1]}</Box>
        )}
      </HStack>
      <Problem error={dismiss.error ?? setRole.error} />
    </Box>
  );
};

/** Who is aboard, how others come aboard, and how one leaves. */
export const CrewAccounts = ({ rig, name, owner }: { rig: number; name: string; owner: boolean }) => {
  const crew = useQuery(get(rig, "/crew"));
  const me = useMe().username;
  const owners = crew.data?.filter((member) => member.role === "owner").length ?? 0;
  const mayLeave = crew.data?.some((member) => member.username === me && (member.role !== "owner" || owners > 1));
  return (
    <Box>
      <Box as="ul" listStyleType="none">
        {crew.data?.map((member) => (
          <Member key={member.username} rig={rig} member={member} owns={owner} />
        ))}
      </Box>
      {owner && <Invite rig={rig} />}
      <HStack mt="4" wrap="wrap" align="start">
        {mayLeave && <Leave rig={rig} />}
        {owner && <Delete rig={rig} name={name} />}
      </HStack>
      <Problem error={crew.error} />
    </Box>
  );
};
