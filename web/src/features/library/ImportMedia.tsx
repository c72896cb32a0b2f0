import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createStore, deleteStore, importFromStore, libraryQueries, uploadZip } from "@/data/library";
import { Uploads } from "@/features/posts/media/Uploads";
import { useUploads } from "@/features/posts/media/useUploads";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";
import { Loading } from "@/ui/Loading";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { formatBytes, useStores } from "./queries";

type Brought = Schemas["ImportedMediaOut"];
type Props = { folder: number | null; close: () => void; done: () => Promise<unknown> };

/** Bring media in: a whole ZIP, or files from a shared store over WebDAV. */
export function ImportMedia({ folder, close, done }: Props) {
  const { brand, may } = useBrandContext();
  const stores = useStores(brand.slug);
  const [open, setOpen] = useState<Schemas["StoreOut"] | null>(null);
  const [brought, setBrought] = useState<Brought | null>(null);
  const tell = (found: Brought) => {
    setBrought(found);
    void done();
    const count = found.added.length;
    toast(
      `${count} ${count === 1 ? "file" : "files"} brought in${found.left.length ? `, ${found.left.length} left` : ""}.`,
    );
  };
  const uploads = useUploads<Brought>((file, progress) => uploadZip(brand.slug, file, progress), tell);
  return (
    <SidePanel title={open ? open.name : "Bring media in"} open close={close}>
      {brought && brought.left.length > 0 && (
        <Box role="alert" borderLeft="3px solid" borderColor="maize" bg="wash" p="8px 12px" mb="12px">
          <b>Not taken:</b>
          {brought.left.map((one) => (
            <Box key={one.name} fontSize="13px" overflowWrap="anywhere">
              {one.name}: {one.reason}
            </Box>
          ))}
        </Box>
      )}
      {open ? (
        <LookIn store={open} folder={folder} back={() => setOpen(null)} tell={tell} />
      ) : (
        <>
          <Box as="h3" fontSize="16px" mb="6px">
            From a ZIP
          </Box>
          <Box color="faded" mb="8px">
            Its folders become folders here; a text file named like a picture becomes its caption.
          </Box>
          <FileButton several accept=".zip,application/zip" pick={(files) => void uploads.add(files)}>
            Choose a ZIP
          </FileButton>
          <Uploads uploads={uploads} />
          <Box as="h3" fontSize="16px" mt="22px" mb="6px">
            From a shared store
          </Box>
          {stores.data?.length === 0 && <Box color="faded">No store is named yet.</Box>}
          {stores.data?.map((store) => (
            <Flex key={store.id} align="center" gap="8px" borderTopWidth="1px" borderColor="rule" py="6px">
              <Box flex="1" minW="0">
                <b>{store.name}</b>
                <Box color="faded" fontSize="12px" overflowWrap="anywhere">
                  {store.address}
                </Box>
              </Box>
              <Button onClick={() => setOpen(store)}>Look in</Button>
              {may("manage_profiles") && <Forget store={store} />}
            </Flex>
          ))}
          {may("manage_profiles") && <NewStore />}
        </>
      )}
    </SidePanel>
  );
}

function Forget({ store }: { store: Schemas["StoreOut"] }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  async function forget() {
    try {
      await deleteStore(brand.slug, store.id);
      await changed("store");
      toast(`“${store.name}” is forgotten. What was brought in from it stays.`);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
  }
  return (
    <Button kind="quiet" aria-label={`Forget ${store.name}`} onClick={() => void forget()}>
      ✕
    </Button>
  );
}

function NewStore() {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [values, setValues] = useState({ name: "", address: "", user: "", password: "" });
  const set = (part: keyof typeof values) => (e: { currentTarget: { value: string } }) =>
    setValues({ ...values, [part]: e.currentTarget.value });
  async function keep(event: FormEvent) {
    event.preventDefault();
    const kept = await form.send(() => createStore(brand.slug, values));
    if (!kept) return;
    setValues({ name: "", address: "", user: "", password: "" });
    await changed("store");
  }
  return (
    <chakra.details mt="16px">
      <chakra.summary cursor="pointer" fontWeight="600" minH="28px">
        Name a store
      </chakra.summary>
      <chakra.form onSubmit={keep} mt="10px">
        <Field label="Name" value={values.name} onChange={set("name")} error={form.at("/name")} maxLength={80} />
        <Field
          label="Address (WebDAV)"
          placeholder="https://"
          value={values.address}
          onChange={set("address")}
          error={form.at("/address")}
        />
        <Field label="User" value={values.user} onChange={set("user")} autoComplete="off" />
        <Field
          label="Password"
          type="password"
          value={values.password}
          onChange={set("password")}
          error={form.at("/password")}
          autoComplete="new-password"
        />
        <Button type="submit" disabled={form.busy}>
          {form.busy ? "Looking in" : "Look in and keep"}
        </Button>
      </chakra.form>
    </chakra.details>
  );
}

type LookProps = {
  store: Schemas["StoreOut"];
  folder: number | null;
  back: () => void;
  tell: (found: Brought) => void;
};

/** A store's folders and files; what is ticked is brought in. */
function LookIn({ store, folder, back, tell }: LookProps) {
  const { brand } = useBrandContext();
  const form = useForm();
  const [path, setPath] = useState("");
  const [chosen, setChosen] = useState<string[]>([]);
  const found = useQuery(libraryQueries.store(brand.slug, store.id, path));
  const bring = () =>
    form.send(async () => {
      const body = { paths: chosen, folder };
      tell(await importFromStore(brand.slug, store.id, body));
      setChosen([]);
    });
  return (
    <>
      <Button kind="link" onClick={() => (path ? setPath(path.split("/").slice(0, -1).join("/")) : back())}>
        ‹ {path ? "Up" : "All stores"}
      </Button>
      <Box my="8px" color="faded" overflowWrap="anywhere">
        /{path}
      </Box>
      {found.isPending && <Loading />}
      {found.error && (
        <Box role="alert" color="pimenton">
          {found.error.message}
        </Box>
      )}
      {found.data?.length === 0 && <Box color="faded">Nothing lies here.</Box>}
      {found.data?.map((entry) =>
        entry.folder ? (
          <Box key={entry.path} minH="32px">
            <Button kind="link" onClick={() => setPath(entry.path)}>
              {entry.name}/
            </Button>
          </Box>
        ) : (
          <Tick
            key={entry.path}
            checked={chosen.includes(entry.path)}
            onChange={(e) =>
              setChosen((all) => (e.target.checked ? [...all, entry.path] : all.filter((p) => p !== entry.path)))
            }
          >
            {entry.name}{" "}
            <Box as="span" color="faded">
              {entry.size !== null && formatBytes(entry.size)}
            </Box>
          </Tick>
        ),
      )}
      {form.problem && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.problem.faults.length ? form.problem.faults.map((f) => f.detail).join(" ") : form.problem.message}
        </Box>
      )}
      <Button kind="main" mt="14px" disabled={form.busy || chosen.length === 0} onClick={() => void bring()}>
        {form.busy ? "Bringing in" : `Bring in ${chosen.length || ""}`}
      </Button>
    </>
  );
}
