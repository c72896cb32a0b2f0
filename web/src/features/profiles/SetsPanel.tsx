import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Profile, ProfileSet } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createSet, deleteSet, updateSet } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { ProfileTicks } from "./ProfileTicks";
import { useSets } from "./queries";

/** Profile sets: name a subset once, choose it in one press everywhere. */
export function SetsPanel({ profiles, close }: { profiles: Profile[]; close: () => void }) {
  const { brand } = useBrandContext();
  const sets = useSets(brand.slug).data ?? [];
  const [editing, setEditing] = useState<ProfileSet | "new" | null>(null);
  return (
    <SidePanel title="Profile sets" open close={close}>
      <Box color="faded" mb="12px">
        A set is chosen in one press when writing, and filters the calendar. Changing a set never changes what is
        planned already.
      </Box>
      {editing ? (
        <Editor
          key={editing === "new" ? "new" : editing.id}
          set={editing}
          profiles={profiles}
          done={() => setEditing(null)}
        />
      ) : (
        <>
          {sets.map((set) => (
            <Flex key={set.id} align="center" gap="10px" py="8px" borderBottomWidth="1px" borderColor="rule">
              <Box flex="1" minW="0">
                <b>{set.name}</b>
                <Box color="faded" fontSize="12px" lineHeight="16px">
                  {someNames(profiles.filter((p) => set.profiles.includes(p.id)))}
                </Box>
              </Box>
              <Button onClick={() => setEditing(set)} aria-label={`Change ${set.name}`}>
                Change
              </Button>
            </Flex>
          ))}
          <Button kind={sets.length ? "plain" : "main"} mt="14px" onClick={() => setEditing("new")}>
            New set
          </Button>
        </>
      )}
    </SidePanel>
  );
}

const NAMED = 8;

/** The first few by their names, the others by their number. */
function someNames(profiles: Profile[]): string {
  const names = profiles.slice(0, NAMED).map((p) => p.display_name || p.handle);
  return names.join(", ") + (profiles.length > NAMED ? ` and ${profiles.length - NAMED} more` : "");
}

function Editor({ set, profiles, done }: { set: ProfileSet | "new"; profiles: Profile[]; done: () => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const known = set === "new" ? null : set;
  const [name, setName] = useState(known?.name ?? "");
  const [chosen, setChosen] = useState<number[]>(known?.profiles ?? []);

  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { name, profiles: chosen };
    const fine = await form.send(() => (known ? updateSet(brand.slug, known.id, body) : createSet(brand.slug, body)));
    if (!fine) return;
    await changed("profile");
    toast(`The set “${name}” is kept.`);
    done();
  }
  async function remove() {
    if (!known) return;
    const { name, profiles } = known;
    await form.send(() => deleteSet(brand.slug, known.id));
    await changed("profile");
    toast(`The set “${name}” is deleted. Its profiles and their posts stay.`, {
      undo: async () => {
        await createSet(brand.slug, { name, profiles });
        await changed("profile");
      },
    });
    done();
  }
  return (
    <chakra.form onSubmit={send}>
      <Field
        label="Name of the set"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        error={form.at("/name")}
        maxLength={60}
        autoFocus
      />
      <Box as="fieldset" mb="14px">
        <Box as="legend" fontWeight="600" fontSize="13px">
          Profiles
        </Box>
        <ProfileTicks
          profiles={profiles.filter((p) => p.state !== "disconnected" || chosen.includes(p.id))}
          chosen={chosen}
          change={setChosen}
        />
        {form.at("/profiles") && (
          <Box role="alert" color="pimenton" fontSize="13px">
            {form.at("/profiles")}
          </Box>
        )}
      </Box>
      <Flex gap="8px">
        <Button kind="main" type="submit" disabled={form.busy}>
          Keep
        </Button>
        <Button onClick={done}>Back</Button>
        <Box flex="1" />
        {known && (
          <Button kind="quiet" color="pimenton" onClick={() => void remove()}>
            Delete the set
          </Button>
        )}
      </Flex>
      {form.loose("/name", "/profiles") && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.loose("/name", "/profiles")}
        </Box>
      )}
    </chakra.form>
  );
}
