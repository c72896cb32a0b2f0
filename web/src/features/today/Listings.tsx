import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { deliveryQueries } from "@/data/delivery";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import { Part } from "./Part";

const SHAPES: Record<string, string> = { empty: "missed", ending: "held", fresh: "published" };

/** How fresh each listing is: which have nothing on them, which are about to, and how much of the cap is used. */
export function Listings() {
  const { brand, may } = useBrandContext();
  const found = useQuery(deliveryQueries.listings(brand.slug)).data;
  if (!found || found.length === 0) return null;
  return (
    <Part title="Listings" count={found.filter((one) => one.state !== "fresh").length}>
      {found.map((one) => (
        <Flex key={one.profile} gap="10px" py="7px" borderTopWidth="1px" borderColor="rule" align="flex-start">
          <Box pt="3px">
            <StateShape state={SHAPES[one.state] ?? "planned"} />
          </Box>
          <Box flex="1" minW="0" data-testid="listing">
            <b>{one.handle}</b> <Words one={one} />
            {one.cap !== null && (
              <Box color="faded" fontSize="12px">
                {one.there} of {one.cap} posts used
              </Box>
            )}
          </Box>
          {may("write") && one.state !== "fresh" && !one.next_at && (
            <Link
              to="/$brand/bench/$post"
              params={{ brand: brand.slug, post: "new" }}
              search={{ profile: one.profile }}
              aria-label={`Write for ${one.handle}`}
              style={{ textDecoration: "underline" }}
            >
              Write
            </Link>
          )}
        </Flex>
      ))}
    </Part>
  );
}

function Words({ one }: { one: Schemas["ListingOut"] }) {
  const { brand, me } = useBrandContext();
  const at = (instant: string) => formatInstant(instant, brand.zone, me.clock24);
  const next = one.next_at ? ` The next goes out ${at(one.next_at)}.` : " Nothing is planned.";
  if (one.ends_at) return `has a post until ${at(one.ends_at)}.${next}`;
  if (one.last_at) return `has nothing on it: its last post was of ${at(one.last_at)}.${next}`;
  return `has never been posted to.${next}`;
}
