import { Box, Flex } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { importCatalogueFile, pollCatalogue } from "@/data/catalogue";
import { RelaysHead } from "@/features/relays/RelaysHead";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Input } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Picker } from "@/ui/Select";
import { formatInstant } from "@/ui/times";
import { CatalogueForm } from "./CatalogueForm";
import { EventPanel } from "./EventPanel";
import { type Catalogue, type CatalogueItem, useCatalogue, useCatalogueAction, useCatalogues } from "./queries";

/** Things for sale or hire, and what happened to them; relays carry it. */
export function CataloguePage() {
  const { brand, may } = useBrandContext();
  const search = useSearch({ from: "/$brand/relays/catalogue" });
  const navigate = useNavigate({ from: "/$brand/relays/catalogue" });
  const found = useCatalogues(brand.slug);
  const [making, setMaking] = useState<Catalogue | "new" | null>(null);
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const one = found.data.find((c) => c.id === search.catalogue) ?? found.data[0];
  const add = may("publish") && (
    <Button kind={one ? "plain" : "main"} onClick={() => setMaking("new")}>
      Add a catalogue
    </Button>
  );
  return (
    <Box px={{ base: "12px", md: "24px" }} py="12px" w="100%" maxW="1180px">
      <RelaysHead title="Catalogue" about="Things for sale or hire. What happens to them are rows of the relay board.">
        {found.data.length > 1 && (
          <Picker
            aria-label="Which catalogue"
            w="220px"
            value={one?.id}
            onChange={(e) => void navigate({ search: { catalogue: Number(e.currentTarget.value) } })}
          >
            {found.data.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Picker>
        )}
        {one && add}
      </RelaysHead>
      {!one && (
        <EmptyState
          title="No catalogue yet"
          words="From a file or an address: CSV, JSON, or a page with JSON-LD of schema.org. What is new, lowered, reserved or sold from one reading to the next becomes an event."
        >
          {add}
        </EmptyState>
      )}
      {one && <Shown key={one.id} one={one} change={() => setMaking(one)} />}
      {making && <CatalogueForm catalogue={making === "new" ? null : making} close={() => setMaking(null)} />}
    </Box>
  );
}

function Shown({ one, change }: { one: Catalogue; change: () => void }) {
  const { brand, me, may } = useBrandContext();
  const act = useCatalogueAction(brand.slug);
  const [words, setWords] = useState("");
  const [saying, setSaying] = useState<CatalogueItem | null>(null);
  const page = useCatalogue(brand.slug, one.id, words).data;
  const told = (happened: number) =>
    happened ? `${happened} ${happened === 1 ? "thing" : "things"} happened.` : "Nothing has happened since.";
  async function read(file?: File) {
    await act(async () => {
      const came = file
        ? await importCatalogueFile(brand.slug, one.id, { file })
        : await pollCatalogue(brand.slug, one.id);
      await act(async () => undefined, told(came.events));
    });
  }
  return (
    <>
      {one.last_error && (
        <Box mb="10px">
          <Bar tone="pimenton" role="alert">
            It could not be read the last time. {one.last_error}
          </Bar>
        </Box>
      )}
      <Flex gap="14px" mb="12px" align="center" flexWrap="wrap" color="faded">
        <Box flex="1" minW="260px" overflowWrap="anywhere">
          {one.items} things, {one.address || "brought as files"}
          {one.read_at && `, read ${formatInstant(one.read_at, brand.zone, me.clock24)}`}
        </Box>
        <Input
          aria-label="Find a thing"
          placeholder="Find a thing"
          w="180px"
          value={words}
          onChange={(e) => setWords(e.currentTarget.value)}
        />
        {may("publish") && (
          <>
            {one.address ? (
              <Button onClick={() => void read()}>Read it now</Button>
            ) : (
              <FileButton accept=".csv,.json,.html" pick={(files) => files[0] && void read(files[0])}>
                Bring another file
              </FileButton>
            )}
            <Button onClick={change}>Settings</Button>
          </>
        )}
      </Flex>
      {!page ? (
        <Loading />
      ) : (
        <Box display="grid" gridTemplateColumns={{ base: "1fr", lg: "1.6fr 1fr" }} gap="32px">
          <Box as="section" aria-label="Things" minW="0">
            {page.items.map((thing) => (
              <ThingRow key={thing.id} thing={thing} say={() => setSaying(thing)} />
            ))}
            {page.count > page.items.length && (
              <Box color="faded" py="8px">
                {page.items.length} of {page.count} shown. Find one by its words.
              </Box>
            )}
            {page.count === 0 && <Box color="faded">No thing has these words.</Box>}
          </Box>
          <Box as="section" aria-label="What happened" minW="0">
            <Box as="h2" fontSize="18px" borderTopWidth="2px" borderColor="ink" pt="6px">
              What happened
            </Box>
            {page.events.length === 0 && (
              <Box color="faded">Nothing yet. What stood in it at first is where it begins.</Box>
            )}
            {page.events.map((one) => (
              <Happening key={one.id} one={one} />
            ))}
          </Box>
        </Box>
      )}
      {saying && <EventPanel thing={saying} rules={one.rules} close={() => setSaying(null)} />}
    </>
  );
}

const STANDS = { free: "", reserved: "reserved", sold: "sold", coming: "coming soon" } as const;

function ThingRow({ thing, say }: { thing: CatalogueItem; say: () => void }) {
  const { may } = useBrandContext();
  return (
    <Flex gap="12px" py="8px" borderTopWidth="1px" borderColor="rule" align="baseline" flexWrap="wrap">
      <Box w="90px" color="faded" overflowWrap="anywhere" fontSize="12px">
        {thing.key}
      </Box>
      <Box flex="1" minW="180px" fontWeight="600" overflowWrap="anywhere">
        {thing.link ? (
          <a href={thing.link} target="_blank" rel="noreferrer noopener">
            {thing.title}
          </a>
        ) : (
          thing.title
        )}
      </Box>
      <Box w="80px" textAlign="right" fontVariantNumeric="tabular-nums">
        {thing.price}
      </Box>
      <Box w="90px" color={thing.availability === "sold" ? "faded" : "maizeInk"}>
        {STANDS[thing.availability]}
      </Box>
      {may("publish") && (
        <Button kind="quiet" aria-label={`Say what happened to ${thing.title}`} onClick={say}>
          Say what happened
        </Button>
      )}
    </Flex>
  );
}

function Happening({ one }: { one: Schemas["CatalogueEventOut"] }) {
  const { brand, me } = useBrandContext();
  return (
    <Box py="7px" borderTopWidth="1px" borderColor="rule">
      <b>{one.event}</b> {one.title}
      {one.before && (
        <span>
          {" "}
          {one.price} <s>{one.before}</s>
        </span>
      )}
      <Box color="faded" fontSize="12px">
        {formatInstant(one.occurred_at, brand.zone, me.clock24)}
      </Box>
    </Box>
  );
}
