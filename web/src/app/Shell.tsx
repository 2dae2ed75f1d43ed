import { Box, Flex, HStack, NativeSelect, Spacer } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { Navigate, NavLink, Outlet, ScrollRestoration, useBlocker, useLocation } from "react-router";

import type { Schemas } from "../api/client";
import { meQuery } from "../api/queries";
import { keepRig, RigContext, useKeptRig } from "../api/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { hasUnsaved } from "../parts/unsaved";
import { Behind } from "./Behind";
import { useFresh, useSending } from "./keeping";
import { applyNight, isNight, keepNight } from "./night";
import { useBehind } from "./older";
import { Shortcuts } from "./Shortcuts";
import { Tray } from "./Tray";
import { Update } from "./Update";
import { FirstVisit, ViewFoot } from "./ViewFoot";
import { MORE, VIEWS } from "./views";

const FORCED = "@media (forced-colors: active)";
const Asks = lazy(async () => ({ default: (await import("./Asks")).Asks }));
const SignIn = lazy(async () => ({ default: (await import("../account/SignIn")).SignIn }));

const BAR = "3.5rem";

/** On a phone only those that are used daily, within reach of a thumb; on the table all of them. */
const NavItem = ({
  to,
  label,
  phone,
  table = true,
}: {
  to: string;
  label: string;
  phone: boolean;
  table?: boolean;
}) => (
  <Box
    asChild
    display={{ base: phone ? "flex" : "none", md: table ? "flex" : "none" }}
    flex={{ base: "1", md: "none" }}
    minH={{ base: BAR, md: "12" }}
    alignItems="center"
    justifyContent="center"
    px="2.5"
    whiteSpace="nowrap"
    color="soft"
    borderWidth="0"
    borderTopWidth={{ base: "3px", md: "0" }}
    borderBottomWidth={{ base: "0", md: "3px" }}
    borderColor="transparent"
    css={{
      // with colours of the reader's own, what is transparent would be drawn
      [FORCED]: { borderColor: "Canvas" },
      "&.active": { color: "ink", borderColor: "first", fontWeight: 600, [FORCED]: { borderColor: "Highlight" } },
    }}
  >
    <NavLink to={to} end={to === "/"}>
      {label}
    </NavLink>
  </Box>
);

const NightSwitch = () => {
  const [night, setNight] = useState(isNight);
  const turn = () => {
    keepNight(!night);
    applyNight(!night);
    setNight(!night);
  };
  return (
    <Plain id="night" onClick={turn} aria-pressed={night}>
      {night ? "Day" : "Night"}
    </Plain>
  );
};

const RigChoice = ({ me, rig, choose }: { me: Schemas["Me"]; rig: number; choose: (rig: number) => void }) => (
  <NativeSelect.Root size="sm" width={{ base: "10rem", md: "11rem" }}>
    <NativeSelect.Field aria-label="Rig" value={rig} onChange={(event) => choose(Number(event.target.value))}>
      {me.rigs.map((each) => (
        <option key={each.id} value={each.id}>
          {each.name}
        </option>
      ))}
    </NativeSelect.Field>
    <NativeSelect.Indicator />
  </NativeSelect.Root>
);

/** Does something that leaves the view, once it is sure that nothing typed is lost by it. */
const useAsking = () => {
  const [wanted, setWanted] = useState<(() => void) | null>(null);
  const ask = (go: () => void) => (hasUnsaved() ? setWanted(() => go) : go());
  const asks = wanted && (
    <Suspense fallback={null}>
      <Asks
        stay={() => setWanted(null)}
        leave={() => {
          setWanted(null);
          wanted();
        }}
      />
    </Suspense>
  );
  return [ask, asks] as const;
};

const Top = ({ me, rig }: { me: Schemas["Me"]; rig: number }) => {
  const [ask, asks] = useAsking();
  return (
    <Flex
      as="header"
      px={{ base: "3", md: "6" }}
      borderBottomWidth="1px"
      borderColor="rule"
      align="center"
      wrap="wrap"
      bg="raised"
    >
      <Box
        fontFamily="heading"
        fontSize={{ base: "lg", md: "xl" }}
        fontWeight="600"
        pr={{ base: "1", md: "4" }}
        py="2"
        aria-hidden
      >
        Lodeline
      </Box>
      <Flex
        as="nav"
        aria-label="Views"
        position={{ base: "fixed", md: "static" }}
        bottom="0"
        insetX="0"
        zIndex={{ base: "docked", md: "auto" }}
        pb={{ base: "env(safe-area-inset-bottom)", md: "0" }}
        bg="raised"
        borderTopWidth={{ base: "1px", md: "0" }}
        borderColor="rule"
      >
        {VIEWS.map((view) => (
          <NavItem key={view.to} to={view.to} label={view.label} phone={view.daily ?? false} />
        ))}
        <NavItem to={MORE} label="More" phone table={false} />
      </Flex>
      <Spacer />
      <HStack gap={{ base: "1", md: "3" }} py="1" fontSize={{ base: "sm", md: "md" }}>
        {me.rigs.length > 1 && <RigChoice me={me} rig={rig} choose={(next) => ask(() => keepRig(next))} />}
        <NightSwitch />
        <Shortcuts />
        <Plain asChild display={{ base: "none", md: "inline-flex" }}>
          <NavLink to="/account">Account</NavLink>
        </Plain>
      </HStack>
      {asks}
    </Flex>
  );
};

/** Stands between views while something is typed and not kept. */
const Leaving = () => {
  const block = useBlocker(
    ({ currentLocation, nextLocation }) =>
      hasUnsaved() && currentLocation.pathname + currentLocation.search !== nextLocation.pathname + nextLocation.search,
  );
  if (block.state !== "blocked") return null;
  return (
    <Suspense fallback={null}>
      <Asks stay={() => block.reset()} leave={() => block.proceed()} />
    </Suspense>
  );
};

/** Who is not signed in sees the door, or what they were invited to. */
const Outside = ({ me }: { me: Schemas["Me"] }) => {
  const { pathname } = useLocation();
  return (
    <Suspense fallback={<Waiting what="the sign-in page" />}>
      {pathname === "/join" ? (
        <main>
          <Outlet />
        </main>
      ) : (
        <SignIn me={me} />
      )}
    </Suspense>
  );
};

const HAS_NO_RIG = ["/set-up", "/account", "/join"];

/** Everything around a view, which stays when the view goes. */
const Inside = ({ me, account, sure }: { me: Schemas["Me"]; account: string; sure: boolean }) => {
  const { pathname } = useLocation();
  const chosen = useKeptRig();
  const rig = me.rigs.find((each) => each.id === chosen)?.id ?? me.rigs[0]?.id;
  useFresh(rig ?? 0);
  const behind = useBehind();
  // what this device remembers of the account may be old
  if (rig === undefined && !sure) return <Waiting what="Lodeline" />;
  if (rig === undefined && !HAS_NO_RIG.some((path) => pathname.startsWith(path)))
    return <Navigate to="/set-up" replace />;
  return (
    <RigContext value={rig ?? 0}>
      <Box asChild position="absolute" left="-999px" _focus={{ left: "2", top: "2", bg: "raised", p: "2", zIndex: 10 }}>
        <a href="#main">Skip to the page</a>
      </Box>
      <Top me={me} rig={rig ?? 0} />
      <Update />
      <Tray account={account} rigs={me.rigs} />
      {behind && <Behind shown={behind} />}
      <Box
        as="main"
        id="main"
        key={rig}
        px={{ base: "3", md: "6" }}
        pt={{ base: "2", md: "4" }}
        pb={{ base: `calc(${BAR} + 1rem)`, md: "4" }}
        maxW="1440px"
        mx="auto"
      >
        <FirstVisit />
        <Suspense fallback={<Waiting what="this view" />}>
          <Outlet />
        </Suspense>
        <ViewFoot />
      </Box>
      <ScrollRestoration />
      <Leaving />
    </RigContext>
  );
};

export const Shell = () => {
  const me = useQuery({ ...meQuery, refetchOnMount: "always" });
  const account = me.data?.username ?? null;
  useSending(account);
  if (me.isPending) return <Waiting what="Lodeline" />;
  if (me.data === undefined) return <Refused error={me.error} again={() => void me.refetch()} />;
  return account === null ? <Outside me={me.data} /> : <Inside me={me.data} account={account} sure={!me.isFetching} />;
};
