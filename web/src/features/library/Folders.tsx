import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { copyFolder, createFolder, removeFolder, updateFolder } from "@/data/library";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import type { MediaSearch } from "./MediaPage";
import { formatBytes, useMediaActions } from "./queries";

type Shelves = Schemas["ShelvesOut"];
type Folder = Schemas["FolderOut"];
type Props = { shelves: Shelves | undefined; search: MediaSearch; set: (more: Partial<MediaSearch>) => void };

const Row = chakra("button", {
  base: {
    display: "flex",
    justifyContent: "space-between",
    gap: "8px",
    w: "100%",
    textAlign: "left",
    px: "8px",
    py: "5px",
    minH: "30px",
    borderRadius: "3px",
    cursor: "pointer",
    _hover: { bg: "wash" },
    "&[aria-current=true]": { bg: "wash", fontWeight: "600" },
  },
});

/** The folders of the library, the bin, and how much of the storage is used. */
export function Folders({ shelves, search, set }: Props) {
  const { may } = useBrandContext();
  const [editing, setEditing] = useState<Folder | "new" | null>(null);
  if (!shelves) return <Box w="200px" flex="none" />;
  const go = (folder: number | undefined, binned?: boolean) =>
    set({ folder, binned: binned || undefined, fill: undefined });
  const here = shelves.folders.find((f) => f.id === search.folder);
  return (
    <Box as="nav" aria-label="Folders" w={{ base: "100%", md: "210px" }} flex="none">
      <Row type="button" aria-current={search.folder === undefined && !search.binned} onClick={() => go(undefined)}>
        Everything <span>{shelves.all}</span>
      </Row>
      <Row type="button" aria-current={search.folder === 0 && !search.binned} onClick={() => go(0)}>
        In no folder <span>{shelves.loose}</span>
      </Row>
      <Box borderTopWidth="1px" borderColor="rule" my="6px" />
      {shelves.folders.map((folder) => (
        <Row key={folder.id} type="button" aria-current={search.folder === folder.id} onClick={() => go(folder.id)}>
          <Box minW="0" overflowWrap="anywhere">
            {folder.name}
            {folder.bundle && (
              <Box as="span" color="faded" fontSize="12px" fontWeight="400">
                {" "}
                bundle
              </Box>
            )}
          </Box>
          <span>{folder.count}</span>
        </Row>
      ))}
      {may("write") && (
        <Flex gap="10px" px="8px" mt="4px" flexWrap="wrap">
          <Button kind="link" fontSize="12px" onClick={() => setEditing("new")}>
            New folder
          </Button>
          {here && (
            <Button kind="link" fontSize="12px" onClick={() => setEditing(here)}>
              Name, copy, remove
            </Button>
          )}
        </Flex>
      )}
      <Box borderTopWidth="1px" borderColor="rule" my="6px" />
      <Row type="button" aria-current={search.binned ?? false} onClick={() => go(undefined, true)}>
        Bin <span>{shelves.binned}</span>
      </Row>
      <Box px="8px" mt="6px" color="faded" fontSize="12px" data-testid="storage">
        {formatBytes(shelves.bytes)} used
      </Box>
      {editing && <FolderPanel folder={editing === "new" ? null : editing} close={() => setEditing(null)} go={go} />}
    </Box>
  );
}

type PanelProps = { folder: Folder | null; close: () => void; go: (folder: number | undefined) => void };

function FolderPanel({ folder, close, go }: PanelProps) {
  const { brand } = useBrandContext();
  const form = useForm();
  const actions = useMediaActions(brand.slug);
  const [name, setName] = useState(folder?.name ?? "");
  const [bundle, setBundle] = useState(folder?.bundle ?? false);
  const [copied, setCopied] = useState(folder ? `${folder.name} (mine)` : "");

  async function keep(event: FormEvent) {
    event.preventDefault();
    const body = { name, bundle };
    const kept = await form.send(async () => {
      const made = folder ? await updateFolder(brand.slug, folder.id, body) : await createFolder(brand.slug, body);
      await actions.fresh();
      go(made.id);
    });
    if (kept) close();
  }
  const copy = () =>
    form.send(async () => {
      if (!folder) return;
      const made = await copyFolder(brand.slug, folder.id, { name: copied });
      await actions.fresh();
      toast(`“${made.name}” is a copy: its captions and alt texts are its own.`);
      go(made.id);
      close();
    });
  const remove = () =>
    actions.attempt(async () => {
      if (!folder) return;
      const done = await removeFolder(brand.slug, folder.id);
      toast(`“${folder.name}” is removed; ${done.count} that lay in it stay in the library.`);
      go(undefined);
      close();
    });
  return (
    <SidePanel title={folder ? folder.name : "New folder"} open close={close}>
      <chakra.form onSubmit={keep}>
        <Field
          label="Name"
          value={name}
          maxLength={120}
          autoFocus
          onChange={(e) => setName(e.currentTarget.value)}
          error={form.at("/name")}
        />
        <Tick checked={bundle} onChange={(e) => setBundle(e.target.checked)}>
          A bundle: pictures with captions to fill in, to be copied and laid out
        </Tick>
        <Button kind="main" type="submit" disabled={form.busy} mt="10px">
          {folder ? "Keep" : "Make it"}
        </Button>
      </chakra.form>
      {folder && (
        <>
          <Box borderTopWidth="1px" borderColor="rule" my="18px" />
          <Field label="A copy of it, called" value={copied} onChange={(e) => setCopied(e.currentTarget.value)} />
          <Flex gap="8px" flexWrap="wrap">
            <Button onClick={() => void copy()} disabled={form.busy}>
              Copy the folder
            </Button>
            <Button onClick={() => void remove()}>Remove the folder</Button>
          </Flex>
          <Box color="faded" fontSize="12px" mt="8px">
            Removing a folder deletes nothing that lies in it.
          </Box>
        </>
      )}
    </SidePanel>
  );
}
