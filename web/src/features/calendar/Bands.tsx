import { Box, chakra } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { memo } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { inkOf } from "./Labels";

type Day = Schemas["AlmanacDay"];
const MARK: Record<string, string> = { holiday: "◆", observance: "◇", own: "★" };

type BandsProps = { bands: Schemas["BandsOut"]; days: Schemas["DayOut"][]; columns: string; words: string };

/** Campaigns and days worth a post, across the columns of a view. */
export const Bands = memo(function Bands({ bands, days, columns, words }: BandsProps) {
  const { campaigns, almanac } = bands;
  if (!campaigns.length && !almanac.length) return null;
  const shift = 2;
  const byDay = Map.groupBy(almanac, (d) => d.day);
  return (
    <Box
      display="grid"
      gridTemplateColumns={columns}
      borderTopWidth="1px"
      borderColor="rule"
      fontSize="11px"
      lineHeight="14px"
      role="row"
    >
      <Box role="rowheader" px="10px" py="3px" color="faded" style={{ gridRow: `1 / span ${campaigns.length + 1}` }}>
        {words}
      </Box>
      {campaigns.map((c, n) => (
        <Box
          key={c.id}
          role="gridcell"
          gridRow={n + 1}
          style={{ gridColumn: `${c.first + shift} / ${c.last + shift + 1}`, borderColor: inkOf(c.ink) }}
          m="2px"
          px="6px"
          py="1px"
          borderWidth="1px"
          borderLeftWidth={c.begins ? "4px" : "1px"}
          borderRightWidth={c.ends ? "4px" : "1px"}
          overflow="hidden"
          whiteSpace="nowrap"
          textOverflow="ellipsis"
          fontWeight="600"
          title={`Campaign ${c.name}`}
        >
          {c.name}
        </Box>
      ))}
      {almanac.length > 0 &&
        days.map((day, n) => (
          <Box
            key={day.date}
            role="gridcell"
            gridRow={campaigns.length + 1}
            style={{ gridColumn: n + shift }}
            p="2px 4px"
            minW="0"
            borderLeftWidth="1px"
            borderColor="rule"
          >
            {(byDay.get(n) ?? []).map((d) => (
              <AlmanacMark key={`${d.key}${d.name}`} day={d} />
            ))}
          </Box>
        ))}
    </Box>
  );
});

/** A day worth a post: pressed, it begins one. */
export function AlmanacMark({ day }: { day: Day }) {
  const { brand, may } = useBrandContext();
  const navigate = useNavigate();
  const kind =
    day.kind === "own" ? "our own date" : day.kind === "holiday" ? `public holiday, ${day.country}` : "observance";
  const begin = () =>
    navigate({
      to: "/$brand/bench/$post",
      params: { brand: brand.slug, post: "new" },
      search: { date: day.date, text: day.name },
    });
  const words = (
    <>
      <span aria-hidden>{MARK[day.kind]}</span> {day.name}
    </>
  );
  const look = {
    display: "block",
    textAlign: "left",
    w: "100%",
    fontSize: "11px",
    lineHeight: "14px",
    minH: "24px",
    overflow: "hidden",
    lineClamp: "2",
    color: day.kind === "observance" ? "faded" : "ink",
    overflowWrap: "anywhere",
  } as const;
  if (!may("write"))
    return (
      <Box {...look} title={`${day.name}, ${kind}`}>
        {words}
      </Box>
    );
  return (
    <chakra.button
      type="button"
      {...look}
      cursor="pointer"
      _hover={{ color: "ink", textDecoration: "underline" }}
      title={`${day.name}, ${kind}: begin a post`}
      onClick={begin}
    >
      {words}
    </chakra.button>
  );
}
