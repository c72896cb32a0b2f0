import { Box, Flex } from "@chakra-ui/react";
import { type FormEvent, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import {
  createCatalogue,
  createCatalogueFromFile,
  deleteCatalogue,
  inspectCatalogue,
  inspectCatalogueFile,
  updateCatalogue,
} from "@/data/catalogue";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";
import { SidePanel } from "@/ui/SidePanel";
import { useForm } from "@/ui/useForm";
import { CustomEvents } from "./CustomEvents";
import { Mapping } from "./Mapping";
import { type Catalogue, type Inspection, useCatalogueAction } from "./queries";

type Said = Required<Schemas["CatalogueIn"]>;

/** A catalogue: where it is, which column says what, and the brand's own events. */
export function CatalogueForm({ catalogue, close }: { catalogue: Catalogue | null; close: () => void }) {
  const { brand } = useBrandContext();
  const form = useForm();
  const deed = useCatalogueAction(brand.slug);
  const [file, setFile] = useState<File | null>(null);
  const [looked, setLooked] = useState<Inspection | null>(null);
  const [leaving, setLeaving] = useState(false);
  const [data, setData] = useState<Said>(() => ({
    name: catalogue?.name ?? "",
    address: catalogue?.address ?? "",
    mapping: (catalogue?.mapping ?? {}) as Said["mapping"],
    currency: catalogue?.currency ?? "EUR",
    rules: catalogue?.rules ?? [],
    interval_minutes: catalogue?.interval_minutes ?? 60,
  }));
  const set = (part: Partial<Said>) => setData((now) => ({ ...now, ...part }));
  // Of several looks under way only the last counts, whichever answers first.
  const looks = useRef(0);
  async function ask(act: () => Promise<Inspection>, then: (came: Inspection) => void) {
    looks.current += 1;
    const mine = looks.current;
    await form.send(async () => {
      const came = await act();
      if (mine === looks.current) then(came);
    });
  }
  const lookAt = (from: File | null, body: { address: string; mapping: Said["mapping"] | null }) =>
    from
      ? inspectCatalogueFile(brand.slug, { file: from, settings: JSON.stringify(body) })
      : inspectCatalogue(brand.slug, body);
  async function look(chosen: File | null) {
    setFile(chosen);
    const address = chosen ? "" : data.address;
    await ask(
      () => lookAt(chosen, { address, mapping: null }),
      (came) => {
        setLooked(came);
        set({ mapping: came.mapping as Said["mapping"], address });
      },
    );
  }
  async function again(mapping: Said["mapping"]) {
    set({ mapping });
    await ask(() => lookAt(file, { address: data.address, mapping }), setLooked);
  }
  async function send(event: FormEvent) {
    event.preventDefault();
    const fine = await form.send(() =>
      catalogue
        ? updateCatalogue(brand.slug, catalogue.id, catalogue.revision, data)
        : file
          ? createCatalogueFromFile(brand.slug, { file, settings: JSON.stringify(data) })
          : createCatalogue(brand.slug, data),
    );
    if (!fine) return;
    await deed(async () => undefined, catalogue ? "Kept." : "Kept. From now on what changes in it are events.");
    close();
  }
  async function remove() {
    if (!catalogue) return;
    const done = await deed(
      () => deleteCatalogue(brand.slug, catalogue.id),
      `${catalogue.name} is deleted. What was posted of it stays.`,
    );
    if (done) close();
  }
  const ready = catalogue !== null || looked !== null;
  return (
    <SidePanel title={catalogue ? `Settings of ${catalogue.name}` : "Add a catalogue"} open close={close} wide>
      <form onSubmit={send}>
        <Field
          label="Name"
          value={data.name}
          maxLength={80}
          onChange={(e) => set({ name: e.currentTarget.value })}
          error={form.at("/name")}
          autoFocus
        />
        <Flex gap="12px" align="flex-end" flexWrap="wrap">
          <Box flex="1" minW="240px">
            <Field
              label="Address of the list or page (CSV, JSON, JSON-LD)"
              value={data.address}
              placeholder="https://"
              onChange={(e) => set({ address: e.currentTarget.value })}
              error={form.at("/address")}
            />
          </Box>
          <Flex gap="10px" mb="14px">
            <Button disabled={form.busy || !data.address.trim()} onClick={() => void look(null)}>
              Look there
            </Button>
            {!catalogue && (
              <FileButton accept=".csv,.json,.html,.txt" pick={(files) => files[0] && void look(files[0])}>
                or a file
              </FileButton>
            )}
          </Flex>
        </Flex>
        {form.at("/file") && (
          <Box role="alert" color="pimenton" mb="10px">
            {form.at("/file")}
          </Box>
        )}
        {looked && (
          <Mapping
            looked={looked}
            mapping={data.mapping}
            set={(mapping) => void again(mapping)}
            at={form.at}
            file={file?.name ?? ""}
          />
        )}
        {ready && (
          <>
            <Flex gap="16px" flexWrap="wrap">
              <Box w="150px">
                <Field
                  label="Currency, if not said"
                  value={data.currency}
                  maxLength={3}
                  onChange={(e) => set({ currency: e.currentTarget.value })}
                  error={form.at("/currency")}
                />
              </Box>
              {data.address && (
                <Box w="190px">
                  <Field
                    label="Read every so many minutes"
                    type="number"
                    min={15}
                    value={data.interval_minutes}
                    onChange={(e) => set({ interval_minutes: Number(e.currentTarget.value) })}
                    error={form.at("/interval_minutes")}
                  />
                </Box>
              )}
            </Flex>
            <CustomEvents
              rules={data.rules}
              set={(rules) => set({ rules })}
              columns={looked?.columns ?? []}
              at={form.at}
            />
          </>
        )}
        {form.loose("/name", "/address", "/file", "/mapping", "/currency", "/interval_minutes", "/rules") && (
          <Box role="alert" color="pimenton" mb="10px">
            {form.loose("/name", "/address", "/file", "/mapping", "/currency", "/interval_minutes", "/rules")}
          </Box>
        )}
        <Flex gap="10px" align="center">
          <Button kind="main" type="submit" disabled={form.busy || !ready}>
            Keep
          </Button>
          <Box flex="1" />
          {catalogue &&
            (leaving ? (
              <>
                <Button kind="quiet" color="pimenton" onClick={() => void remove()}>
                  Yes, with its {catalogue.items} things and its relays
                </Button>
                <Button kind="quiet" onClick={() => setLeaving(false)}>
                  No
                </Button>
              </>
            ) : (
              <Button kind="quiet" onClick={() => setLeaving(true)}>
                Delete it
              </Button>
            ))}
        </Flex>
      </form>
    </SidePanel>
  );
}
