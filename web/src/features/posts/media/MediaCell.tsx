import { Box, Flex } from "@chakra-ui/react";
import { type ClipboardEvent, type DragEvent, memo, useEffect, useRef, useState } from "react";
import type { Column } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { uploadAsset } from "@/data/library";
import { Button } from "@/ui/Button";
import { FileButton, MEDIA_FILES } from "@/ui/FileButton";
import { type BenchColumn, type Showing, withMaster, withOverrides } from "../draft";
import { usePlace } from "../place";
import { AltField } from "./AltField";
import { AssetTile, marksOf } from "./AssetTile";
import { LibraryPicker } from "./LibraryPicker";
import { PicturePanel } from "./PicturePanel";
import { Uploads } from "./Uploads";
import { useUploads } from "./useUploads";

type Props = {
  label: string;
  media: number[];
  shown: Record<string, Showing>;
  column?: BenchColumn;
  inherited?: boolean;
  check?: Column;
  story?: boolean;
};

const MOVED = "text/menudo-medium";

/** The media of the master or of a column: add by file, drop, paste or from the library; order; open one to work on it. */
export const MediaCell = memo(function MediaCell({ label, media, shown, column, inherited, check, story }: Props) {
  const { brand } = useBrandContext();
  const { assets, added, change } = usePlace();
  const [open, setOpen] = useState<number | null>(null);
  const [picking, setPicking] = useState(false);
  const newest = useRef(media);
  newest.current = media;
  const set = (next: number[]) => {
    newest.current = next;
    change((d) => (column ? withOverrides(d, column.key, { media: next }) : withMaster(d, { media: next })));
  };
  const put = (ids: number[]) => set([...newest.current, ...ids.filter((one) => !newest.current.includes(one))]);
  const uploads = useUploads(
    (file, progress) => uploadAsset(brand.slug, file, progress),
    (asset) => {
      added(asset);
      put([asset.id]);
    },
  );
  useFilesAnywhere(column === undefined, uploads.add);
  const move = (from: number, to: number) => {
    const next = [...newest.current];
    const [moved] = next.splice(from, 1);
    if (moved !== undefined) next.splice(to, 0, moved);
    set(next);
  };
  function drop(event: DragEvent) {
    if (!event.dataTransfer.files.length) return;
    event.preventDefault();
    void uploads.add([...event.dataTransfer.files]);
  }
  function paste(event: ClipboardEvent) {
    if (!event.clipboardData.files.length) return;
    event.preventDefault();
    event.stopPropagation();
    void uploads.add([...event.clipboardData.files]);
  }

  return (
    <Box onDragOver={(e) => e.preventDefault()} onDrop={drop} onPaste={paste} data-media-cell={column?.key ?? "master"}>
      <Flex gap="8px" flexWrap="wrap" opacity={inherited ? 0.8 : 1} as="ol" listStyleType="none" m="0" p="0">
        {media.map((asset, at) => {
          const known = assets.get(asset);
          return (
            <Box
              as="li"
              key={asset}
              w={column ? "auto" : "100%"}
              draggable
              onDragStart={(e) => e.dataTransfer.setData(MOVED, String(at))}
              onDrop={(e) => {
                const from = e.dataTransfer.getData(MOVED);
                if (from === "") return;
                e.preventDefault();
                e.stopPropagation();
                move(Number(from), at);
              }}
            >
              <Flex gap="8px" align="flex-start">
                <AssetTile
                  asset={known}
                  id={asset}
                  showing={shown[asset]}
                  size={check?.sizes.find((s) => s.asset === asset)}
                  large={!column}
                  label={label}
                  open={() => setOpen(asset)}
                  earlier={at > 0 ? () => move(at, at - 1) : undefined}
                  later={at < media.length - 1 ? () => move(at, at + 1) : undefined}
                  out={() => set(media.filter((m) => m !== asset))}
                />
                {!column && known && <AltField asset={known} added={added} />}
              </Flex>
            </Box>
          );
        })}
      </Flex>
      {column && media.length > 0 && <Summary count={media.length} marks={media.flatMap((m) => marksOf(shown[m]))} />}
      <Uploads uploads={uploads} />
      <Flex gap="6px" mt="6px" flexWrap="wrap" align="center">
        <FileButton
          several
          accept={MEDIA_FILES}
          pick={(files) => void uploads.add(files)}
          fontSize="12px"
          minH="26px"
          py="2px"
          px={column ? "4px" : undefined}
          kind={column ? "quiet" : "plain"}
        >
          {column ? `Add for ${label} only` : "Add pictures or video"}
        </FileButton>
        {!column && (
          <Button fontSize="12px" minH="26px" py="2px" onClick={() => setPicking(true)}>
            From the library
          </Button>
        )}
      </Flex>
      {picking && (
        <LibraryPicker
          close={() => setPicking(false)}
          pick={(found) => {
            for (const asset of found) added(asset);
            put(found.map((asset) => asset.id));
          }}
        />
      )}
      {open !== null && assets.get(open) && (
        <PicturePanel
          asset={open}
          column={column}
          story={story ?? false}
          earlier={media.indexOf(open) > 0 ? () => move(media.indexOf(open), media.indexOf(open) - 1) : undefined}
          later={
            media.indexOf(open) < media.length - 1
              ? () => move(media.indexOf(open), media.indexOf(open) + 1)
              : undefined
          }
          out={() => {
            set(media.filter((m) => m !== open));
            setOpen(null);
          }}
          close={() => setOpen(null)}
        />
      )}
    </Box>
  );
});

/** Files pasted or dropped anywhere on the Bench go to the master; none makes the browser leave the page. */
function useFilesAnywhere(on: boolean, add: (files: File[]) => Promise<void>): void {
  const newest = useRef(add);
  newest.current = add;
  useEffect(() => {
    if (!on) return;
    const take = (event: Event, files: FileList | undefined) => {
      if (!files?.length || document.querySelector('[role="dialog"][data-state="open"]')) return;
      event.preventDefault();
      void newest.current([...files]);
    };
    const paste = (event: globalThis.ClipboardEvent) => take(event, event.clipboardData?.files);
    const drop = (event: globalThis.DragEvent) => !event.defaultPrevented && take(event, event.dataTransfer?.files);
    const over = (event: globalThis.DragEvent) => event.dataTransfer?.types.includes("Files") && event.preventDefault();
    window.addEventListener("paste", paste);
    window.addEventListener("drop", drop);
    window.addEventListener("dragover", over);
    return () => {
      window.removeEventListener("paste", paste);
      window.removeEventListener("drop", drop);
      window.removeEventListener("dragover", over);
    };
  }, [on]);
}

function Summary({ count, marks }: { count: number; marks: string[] }) {
  const told = [...new Set(marks)].map((mark) => {
    const times = marks.filter((m) => m === mark).length;
    return times > 1 ? `${times} ${mark}` : mark;
  });
  return (
    <Box fontSize="11.5px" color="faded" mt="4px">
      {[`${count} ${count === 1 ? "medium" : "media"}`, ...told].join(" · ")}
    </Box>
  );
}
