import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createSignLink, revokeSignLink, signoffQueries } from "@/data/signoff";
import { useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { LinkOnce } from "@/ui/LinkOnce";
import { Select } from "@/ui/Select";
import { Tick } from "@/ui/Tick";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { Chosen } from "./Chosen";

/** Links with which clients sign off: make one, copy it, see when it was last opened, take it back. */
export function SignLinks({ signers }: { signers: Schemas["SignerOut"][] }) {
  const { brand, me, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const [made, setMade] = useState<Schemas["SignLinkMade"] | null>(null);
  const links = useQuery({ ...signoffQueries.links(brand.slug), enabled: may("manage_people") });
  if (!may("manage_people")) return null;
  async function revoke(id: number) {
    await revokeSignLink(brand.slug, id);
    if (made?.link.id === id) setMade(null);
    await changed("sign-link");
    toast("The link leads nowhere any more. What was answered by it stands.");
  }
  return (
    <Box as="section" aria-label="Links" borderTopWidth="2px" borderColor="ink" pt="12px">
      <Box as="h2" fontSize="20px" lineHeight="26px" mb="4px">
        Clients by link
      </Box>
      <Box color="faded" mb="14px" maxW="68ch">
        A page for a phone, without an account: every post that waits for them, as followers will see it. Each answer is
        kept with their name and the time.
      </Box>
      {made && <LinkOnce called={made.link.display_name} address={made.address} />}
      {links.data?.map((link) => (
        <Flex key={link.id} gap="10px" py="8px" borderTopWidth="1px" borderColor="rule" align="flex-start">
          <Box flex="1" minW="0">
            <b>{link.display_name}</b>
            {link.answers_for && ` in the place of ${link.answers_for}`}
            <Box color="faded" fontSize="12px" lineHeight="16px">
              Until {formatInstant(link.expires_at, brand.zone, me.clock24)}.{" "}
              {link.profiles.length > 0 && `${link.profiles.length} of the profiles. `}
              {link.may_edit && "May change the wording. "}
              {link.last_opened_at
                ? `Last opened ${formatInstant(link.last_opened_at, brand.zone, me.clock24)}.`
                : "Not opened yet."}
            </Box>
          </Box>
          <Button aria-label={`Take back the link for ${link.display_name}`} onClick={() => void revoke(link.id)}>
            Take back
          </Button>
        </Flex>
      ))}
      <NewLink
        key={made?.link.id ?? 0}
        signers={signers}
        made={async (one) => {
          setMade(one);
          await changed("sign-link");
        }}
      />
    </Box>
  );
}

type NewProps = { signers: Schemas["SignerOut"][]; made: (link: Schemas["SignLinkMade"]) => Promise<void> };

function NewLink({ signers, made }: NewProps) {
  const { brand } = useBrandContext();
  const profiles = useProfiles(brand.slug).data ?? [];
  const form = useForm();
  const [called, setCalled] = useState("");
  const [user, setUser] = useState("");
  const [only, setOnly] = useState<number[]>([]);
  const [edit, setEdit] = useState(false);
  const [days, setDays] = useState("30");

  function send(event: FormEvent) {
    event.preventDefault();
    void form.send(async () => {
      const body = {
        display_name: called,
        user: user ? Number(user.slice(1)) : null,
        profiles: only,
        may_edit: edit,
        days: Number(days),
      };
      await made(await createSignLink(brand.slug, body));
    });
  }
  return (
    <chakra.form onSubmit={send} mt="14px" maxW="640px" aria-label="A new link">
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="0 20px">
        <Field
          label="For whom"
          placeholder="The director"
          value={called}
          maxLength={120}
          onChange={(e) => setCalled(e.currentTarget.value)}
          error={form.at("/display_name")}
        />
        <Select
          label="Answers for"
          value={user}
          error={form.at("/user")}
          onChange={(e) => setUser(e.currentTarget.value)}
        >
          <option value="">itself</option>
          {signers
            .filter((s) => s.key.startsWith("u"))
            .map((s) => (
              <option key={s.key} value={s.key}>
                {s.name}
              </option>
            ))}
        </Select>
      </Box>
      <Chosen
        label="Shows"
        none="every profile"
        options={profiles.map((p) => ({ id: p.id, name: p.display_name || p.handle }))}
        chosen={only}
        change={(list) => setOnly(list.map(Number))}
        error={form.at("/profiles/0")}
      />
      <Tick checked={edit} onChange={(e) => setEdit(e.target.checked)}>
        May change the wording while signing off
      </Tick>
      <Field
        label="Good for so many days"
        type="number"
        min={1}
        max={365}
        maxW="120px"
        value={days}
        error={form.at("/days")}
        onChange={(e) => setDays(e.currentTarget.value)}
      />
      <Button type="submit" disabled={form.busy}>
        Make the link
      </Button>
    </chakra.form>
  );
}
