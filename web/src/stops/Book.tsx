import { Box, Flex, HStack, Input } from "@chakra-ui/react";
import { lazy, Suspense, useState } from "react";
import { useSearchParams } from "react-router";
import { useNavigate } from "react-router";

import { useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { useRole } from "../api/rig";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { PlanHere } from "./PlanHere";

const SpotEditor = lazy(async () => ({ default: (await import("./SpotEditor")).SpotEditor }));

const Details = ({ spot }: { spot: Schemas["SpotOut"] }) => (
  <Box fontSize="sm" pb="2">
    <Box>{spot.opening}</Box>
    {spot.notes.map((note) => (
      <Box key={note}>{note}</Box>
    ))}
    {spot.visits.map((visit) => (
      <Box key={visit} color="soft">
        {visit}
      </Box>
    ))}
  </Box>
);

/** Writes the ticket of a stop at a place now. */
const TicketNow = ({ rig, spot, now }: { rig: number; spot: string; now: string }) => {
  const navigate = useNavigate();
  const write = useTell(rig, "post", "/tickets");
  const open = () =>
    write.mutate(
      { place: spot, arrive: now, plug: false },
      { onSuccess: ({ id }) => void navigate(`/stops/tickets/${id}`) },
    );
  return (
    <>
      <Plain size="sm" disabled={write.isPending} onClick={open}>
        Ticket for now
      </Plain>
      <Problem error={write.error} />
    </>
  );
};

const SpotLine = ({
  rig,
  spot,
  now,
  edit,
}: {
  rig: number;
  spot: Schemas["SpotOut"];
  now: Schemas["Moment"];
  edit: () => void;
}) => {
  const [open, setOpen] = useState(false);
  const { writes } = useRole();
  return (
    <Box as="li" borderTopWidth="1px" borderColor="rule" py="2" data-place={spot.id}>
      <Flex justify="space-between" gap="3" align="flex-start">
        <Box asChild textAlign="left" cursor="pointer" flex="1" minW="0" py="1">
          <button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
            <Box as="span" fontWeight="600" data-part="place-name">
              {spot.name}
            </Box>
            {spot.words && (
              <Box as="span" color="soft">
                {" "}
                {spot.words}
              </Box>
            )}
            <Box as="span" display="block">
              {spot.offers.map((offer, index) => (
                <Box as="span" key={offer.id} fontWeight={offer.matters ? 700 : 400}>
                  {index > 0 && "; "}
                  {offer.words}
                </Box>
              ))}
            </Box>
          </button>
        </Box>
        {writes && (
          <Plain size="sm" onClick={edit} aria-label={`Change ${spot.name}`}>
            Change
          </Plain>
        )}
      </Flex>
      {spot.limits.length > 0 && (
        <Box color="soft" fontSize="sm">
          {spot.limits.join("; ")}
        </Box>
      )}
      {spot.lets_in && (
        <Box color="warn" fontSize="sm">
          {spot.lets_in}
        </Box>
      )}
      {spot.age && (
        <Box color="soft" fontSize="sm">
          {spot.age}
        </Box>
      )}
      {open && (
        <>
          <Details spot={spot} />
          {writes && (
            <>
              <PlanHere rig={rig} spot={spot} today={now.date} />
              <TicketNow rig={rig} spot={spot.id} now={now.at} />
            </>
          )}
        </>
      )}
    </Box>
  );
};

/** Nights that were logged elsewhere, offered for the book. */
const Offered = ({ rig, offered }: { rig: number; offered: Schemas["OfferedOut"][] }) => {
  const keep = useTell(rig, "post", "/places");
  if (offered.length === 0) return null;
  const add = ({ place }: Schemas["OfferedOut"]) =>
    keep.mutate({ spot: { id: "new", ...place, services: {} }, plain: null });
  return (
    <Box asChild mt="4">
      <details>
        <Box as="summary" cursor="pointer" py="1">
          Nights in your log that are not in the book
        </Box>
        {offered.map((each) => (
          <HStack key={each.words} py="1">
            <Box>{each.words}</Box>
            <Plain size="sm" disabled={keep.isPending} onClick={() => add(each)}>
              Add
            </Plain>
          </HStack>
        ))}
        <Problem error={keep.error} />
      </details>
    </Box>
  );
};

const fits = (spot: Schemas["SpotOut"], text: string, service: string): boolean =>
  (service === "" || spot.offers.some((offer) => offer.id === service)) &&
  `${spot.name} ${spot.offers.map((offer) => offer.words).join(" ")}`.toLowerCase().includes(text.toLowerCase());

/** The book of places: the list that says what the sketch shows, and more. */
export const Book = ({ rig, book }: { rig: number; book: Schemas["BookOut"] }) => {
  const [text, setText] = useState("");
  const [service, setService] = useState("");
  // who comes to add a place, or pressed the sketch, finds the form open
  const [asked, setAsked] = useSearchParams();
  const [chosen, setEdited] = useState<string | null>(null);
  const edited = chosen ?? (asked.has("add") ? "" : null);
  const close = () => {
    setEdited(null);
    setAsked({}, { replace: true });
  };
  const { writes } = useRole();
  const shown = book.spots.filter((spot) => fits(spot, text, service));
  return (
    <Box minW="0">
      <Flex gap="3" wrap="wrap" align="flex-end" mb="2">
        <Box flex="1 1 10rem">
          <Labelled label="Find">
            <Input bg="raised" borderColor="edge" value={text} onChange={(event) => setText(event.target.value)} />
          </Labelled>
        </Box>
        {writes && (
          <Plain tone="strong" onClick={() => setEdited("")}>
            Add a place
          </Plain>
        )}
      </Flex>
      <Flex gap="1.5" wrap="wrap" mb="2" role="group" aria-label="What is offered">
        {book.services
          .filter((each) => each.needed)
          .map((each) => (
            <Plain
              key={each.id}
              size="sm"
              aria-pressed={service === each.id}
              onClick={() => setService(service === each.id ? "" : each.id)}
            >
              {each.name}
            </Plain>
          ))}
      </Flex>
      <Box as="ul" listStyleType="none" aria-label="Places">
        {shown.map((spot) => (
          <SpotLine key={spot.id} rig={rig} spot={spot} now={book.now} edit={() => setEdited(spot.id)} />
        ))}
      </Box>
      {shown.length === 0 && <Box color="soft">No place offers that.</Box>}
      {writes && <Offered rig={rig} offered={book.offered} />}
      {edited !== null && (
        <Suspense fallback={null}>
          <SpotEditor rig={rig} place={edited || null} book={book} at={asked.get("add")} close={close} />
        </Suspense>
      )}
    </Box>
  );
};
