import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { libraryQueries } from "@/data/library";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { Picker } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";

type Asset = Schemas["AssetOut"];
type Query = { words: string; kind: Kind; folder: number | undefined };
type Kind = "" | "picture" | "video";
type Props = { pick: (assets: Asset[]) => void; close: () => void; one?: boolean; kind?: "picture" | "video" };

/** Choose media from the library: search, folders; several in the order they are pressed. */
export function LibraryPicker({ pick, close, one, kind }: Props) {
  const { brand } = useBrandContext();
  const [words, setWords] = useState("");
  const [folder, setFolder] = useState("");
  const [chosen, setChosen] = useState<Asset[]>([]);
  const shelves = useQuery(libraryQueries.shelves(brand.slug));
  const query: Query = {
    words,
    kind: kind ?? (one ? ("picture" as const) : ""),
    folder: folder ? Number(folder) : undefined,
  };
  const found = useQuery(libraryQueries.newest(brand.slug, query));
  function press(asset: Asset) {
    if (one) {
      pick([asset]);
      close();
      return;
    }
    setChosen((all) => (all.some((a) => a.id === asset.id) ? all.filter((a) => a.id !== asset.id) : [...all, asset]));
  }
  return (
    <SidePanel title="From the library" open close={close}>
      <Flex gap="8px" mb="12px">
        <Input
          type="search"
          aria-label="Search the library"
          placeholder="name, alt text, label, a post's words"
          value={words}
          onChange={(e) => setWords(e.currentTarget.value)}
        />
        <Picker aria-label="Folder" value={folder} onChange={(e) => setFolder(e.currentTarget.value)} w="150px">
          <option value="">everywhere</option>
          {shelves.data?.folders.map((f) => (
            <option key={f.id} value={f.id}>
              {f.name}
            </option>
          ))}
        </Picker>
      </Flex>
      {found.isPending && <Loading />}
      {found.data?.assets.length === 0 && <Box color="faded">Nothing like that lies in the library.</Box>}
      <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(104px, 1fr))" gap="8px">
        {found.data?.assets.map((asset) => {
          const at = chosen.findIndex((a) => a.id === asset.id);
          return (
            <chakra.button
              key={asset.id}
              type="button"
              aria-pressed={one ? undefined : at >= 0}
              aria-label={asset.name}
              onClick={() => press(asset)}
              borderWidth="2px"
              borderColor={at >= 0 ? "anil" : "rule"}
              p="4px"
              position="relative"
              textAlign="left"
              cursor="pointer"
            >
              <Box h="78px" display="flex" alignItems="center" justifyContent="center">
                <img
                  src={`/media/${brand.slug}/${asset.id}/thumb`}
                  alt=""
                  style={{ maxWidth: "100%", maxHeight: "100%" }}
                />
              </Box>
              <Box fontSize="11px" lineHeight="14px" mt="4px" truncate>
                {asset.name}
              </Box>
              {at >= 0 && (
                <Box position="absolute" top="4px" right="4px" bg="anil" color="card" px="6px" fontSize="12px">
                  {at + 1}
                </Box>
              )}
            </chakra.button>
          );
        })}
      </Box>
      {!one && (
        <Box position="sticky" bottom="-20px" bg="card" py="12px" mt="8px" borderTopWidth="1px" borderColor="rule">
          <Button
            kind="main"
            disabled={chosen.length === 0}
            onClick={() => {
              pick(chosen);
              close();
            }}
          >
            Add {chosen.length || ""}
          </Button>
        </Box>
      )}
    </SidePanel>
  );
}
