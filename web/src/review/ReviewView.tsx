import { Box, Grid, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Sheet } from "../parts/Sheet";
import { useTitle } from "../parts/title";
import { dateWords } from "../parts/words";
import { CaseDrawing } from "./CaseDrawing";
import { SeenDrawing } from "./SeenDrawing";

const Recent = ({ cases, horizonDays }: { cases: Schemas["Case"][]; horizonDays: number }) => (
  <Box as="section" aria-label="Latest forecasts that came true">
    <Heading as="h2" size="lg" fontFamily="heading" mb="2">
      The latest that came true
    </Heading>
    <Box color="soft" fontSize="sm" mb="3">
      {horizonDays} days from left to right: the range that was shown, its middle, and a cross where it came true.
    </Box>
    {cases.length === 0 && (
      <Box>
        None yet. A forecast is decided when its line is reached, or when a stop came too early or too late for its
        range.
      </Box>
    )}
    <Box as="ul" listStyleType="none">
      {cases.map((each) => (
        <Grid
          as="li"
          key={`${each.store}${each.at.at}`}
          templateColumns="7.5rem 1fr"
          gap="2"
          alignItems="center"
          py="0.5"
        >
          <Box fontSize="sm">
            {each.name}
            <Box as="span" display="block" color="soft">
              {dateWords(each.at.date)}
            </Box>
          </Box>
          <CaseDrawing one={each} horizonDays={horizonDays} />
        </Grid>
      ))}
    </Box>
  </Box>
);

/** The readings that came, each where it lay in what had been expected: in the middle part eight of ten should lie. */
const Readings = ({ stores, seen }: { stores: Schemas["StoreReview"][]; seen: Schemas["SeenOut"][] }) => (
  <Box as="section" aria-label="Readings against what was expected">
    <Heading as="h2" size="lg" fontFamily="heading" mb="2">
      Readings against what was expected
    </Heading>
    <Sheet
      name="Readings by notice"
      heads={["Expected", "Readings", "In the range", "Should be"]}
      rows={seen.map((each) => [`${each.notice} before`, each.n, each.held, each.should])}
    />
    <Box color="soft" fontSize="sm" mt="3" mb="2">
      A dot is a reading: on the left it was less than expected, on the right more. Eight in ten should lie in the band.
    </Box>
    <Box as="ul" listStyleType="none">
      {stores
        .filter((store) => store.dots.length > 0)
        .map((store) => (
          <Grid as="li" key={store.store} templateColumns="7.5rem 1fr" gap="2" alignItems="center" py="0.5">
            <Box fontSize="sm">{store.name}</Box>
            <SeenDrawing store={store} />
          </Grid>
        ))}
    </Box>
  </Box>
);

/** How the forecasts did: how often the ranges held, and how far off the days were. */
export const ReviewView = () => {
  useTitle("Looking back");
  const review = useQuery(get(useRig(), "/review"));
  if (review.isPending) return <Waiting what="what came true" why={review.failureReason} />;
  if (review.isError && !review.data) return <Refused error={review.error} again={() => void review.refetch()} />;
  const record = review.data;
  return (
    <Box maxW="76rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
        {record.headline}
      </Heading>
      <Box fontSize={{ base: "md", md: "lg" }} color="soft" mb="6">
        {record.detail}
      </Box>
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 3fr) minmax(0, 2fr)" }} gap="8">
        <Box>
          <Readings stores={record.stores} seen={record.seen} />
          <Heading as="h2" size="lg" fontFamily="heading" mt="6" mb="2">
            Lines, by store
          </Heading>
          <Sheet
            name="By store"
            heads={["Store", "Lines decided", "Held", "Spread from now on"]}
            rows={record.stores.map((store) => [store.name, store.decided, store.held, store.spread])}
          />
          <Heading as="h2" size="lg" fontFamily="heading" mt="6" mb="2">
            How far off the days were
          </Heading>
          <Sheet
            name="By notice"
            heads={["Notice", "Lines reached", "Lodeline was off by", "Last reading over last week's use"]}
            rows={record.notices.map((notice) => [notice.notice, notice.n, notice.off, notice.baseline_off])}
          />
          {record.agreed.length > 0 && (
            <Box as="section" aria-label="What was agreed" mt="6">
              <Heading as="h2" size="lg" fontFamily="heading" mb="2">
                What was agreed
              </Heading>
              <Box as="ul" listStyleType="none">
                {record.agreed.map((line) => (
                  <Box as="li" key={line} py="0.5">
                    {line}
                  </Box>
                ))}
              </Box>
            </Box>
          )}
          <Box color="soft" fontSize="sm" mt="3">
            A stop that served a store before its line tells only that the line would have come later. The spread
            follows the record slowly, for a few outcomes may be luck.
          </Box>
        </Box>
        <Recent cases={record.recent} horizonDays={record.horizon_days} />
      </Grid>
    </Box>
  );
};
