import { Box, Flex } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { type AssetFilter, uploadAsset } from "@/data/library";
import { Uploads } from "@/features/posts/media/Uploads";
import { useUploads } from "@/features/posts/media/useUploads";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { FileButton, MEDIA_FILES } from "@/ui/FileButton";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { AssetPanel } from "./AssetPanel";
import { BulkBar } from "./BulkBar";
import { BundlePage } from "./BundlePage";
import { Filters } from "./Filters";
import { Folders } from "./Folders";
import { ImportMedia } from "./ImportMedia";
import { MediaGrid } from "./MediaGrid";
import { MediaList } from "./MediaList";
import { type Asset, useAssets, useMediaActions, useShelves } from "./queries";

export type MediaSearch = AssetFilter & { list?: boolean; fill?: boolean };
type Props = { search: MediaSearch; set: (more: Partial<MediaSearch>) => void };

/** Media: folders at the left, what lies in them at the right; several chosen and worked on at once. */
export function MediaPage({ search, set }: Props) {
  const { brand, may } = useBrandContext();
  const [pages, setPages] = useState(1);
  const [chosen, setChosen] = useState<number[]>([]);
  const [open, setOpen] = useState<number | null>(null);
  const [bringing, setBringing] = useState(false);
  const { list, fill, words, folder, label, kind, used, binned } = search;
  const wanted = { words, folder, label, kind, used, binned };
  const shelves = useShelves(brand.slug);
  const found = useAssets(brand.slug, wanted, pages);
  const actions = useMediaActions(brand.slug);
  const here = shelves.data?.folders.find((f) => f.id === folder);
  const uploads = useUploads<Asset>(
    (file, progress) => uploadAsset(brand.slug, file, progress, folder),
    () => void actions.fresh(),
  );
  const place = JSON.stringify(wanted);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another place begins anew
  useEffect(() => {
    setPages(1);
    setChosen([]);
  }, [place]);

  if (found.error) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  const assets = found.data?.assets ?? [];
  const selected = assets.filter((a) => chosen.includes(a.id));
  const toggle = (id: number, through: boolean) => {
    const last = chosen.at(-1);
    if (!through || last === undefined) {
      setChosen((all) => (all.includes(id) ? all.filter((one) => one !== id) : [...all, id]));
      return;
    }
    const ids = assets.map((a) => a.id);
    const [from, to] = [ids.indexOf(last), ids.indexOf(id)].sort((a, b) => a - b) as [number, number];
    setChosen((all) => [...new Set([...all, ...ids.slice(from, to + 1)])]);
  };
  const shared = { assets, chosen, toggle, open: setOpen };
  return (
    <Flex gap="24px" align="flex-start" flexDirection={{ base: "column", md: "row" }}>
      <Folders shelves={shelves.data} search={search} set={set} />
      <Box
        flex="1"
        minW="0"
        w="100%"
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          if (!e.dataTransfer.files.length || !may("write")) return;
          e.preventDefault();
          void uploads.add([...e.dataTransfer.files]);
        }}
      >
        <Filters search={search} set={set} total={found.data?.total} labels={shelves.data?.labels ?? []}>
          {may("write") && !binned && (
            <>
              <FileButton several accept={MEDIA_FILES} pick={(files) => void uploads.add(files)}>
                Add files
              </FileButton>
              <Button onClick={() => setBringing(true)}>Bring in</Button>
            </>
          )}
          {here?.bundle && (
            <Button aria-pressed={fill ?? false} onClick={() => set({ fill: fill ? undefined : true })}>
              {fill ? "See the pictures" : "Fill in the captions"}
            </Button>
          )}
        </Filters>
        <Uploads uploads={uploads} />
        {selected.length > 0 && (
          <BulkBar
            assets={selected}
            shelves={shelves.data}
            binned={binned ?? false}
            deeds={actions}
            clear={() => setChosen([])}
            all={() => setChosen(assets.map((a) => a.id))}
          />
        )}
        {found.isPending ? (
          <Loading />
        ) : assets.length === 0 ? (
          <EmptyState
            title={binned ? "The bin is empty." : "Nothing lies here."}
            words={
              binned
                ? "What is put in the bin can be taken out again for 30 days."
                : words || label || kind || used !== undefined
                  ? "Nothing fits what is asked for. Clear the filters to see all."
                  : "Add pictures and videos, drop them here, or bring them in from a ZIP or a shared store."
            }
          />
        ) : fill && here ? (
          <BundlePage folder={here} assets={assets} />
        ) : list ? (
          <MediaList {...shared} />
        ) : (
          <MediaGrid {...shared} />
        )}
        {found.data && found.data.total > assets.length && (
          <Button mt="14px" onClick={() => setPages((n) => n + 1)}>
            Show more ({found.data.total - assets.length} left)
          </Button>
        )}
      </Box>
      {open !== null && <AssetPanel id={open} asset={assets.find((a) => a.id === open)} close={() => setOpen(null)} />}
      {bringing && <ImportMedia folder={folder || null} close={() => setBringing(false)} done={actions.fresh} />}
    </Flex>
  );
}
