import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useChanged } from "@/data/changes";
import { noticeQueries, saveNotificationPreferences } from "@/data/notices";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { Picker } from "@/ui/Select";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { ZoneField } from "@/ui/ZoneField";

type Wishes = Schemas["PreferencesOut"];
const WAYS: [string, string][] = [
  ["now", "a mail at once"],
  ["digest", "in the day’s digest"],
  ["text", "a text message"],
  ["none", "here only"],
];

/** How one is told of what happens: at once, once a day, by text message, or in the product only; and when not. */
export function NotificationPreferences() {
  const wishes = useQuery(noticeQueries.preferences());
  if (!wishes.data) return <Loading />;
  return <Form wishes={wishes.data} />;
}

function Form({ wishes }: { wishes: Wishes }) {
  const changed = useChanged();
  const form = useForm();
  const [ways, setWays] = useState(() => Object.fromEntries(wishes.kinds.map((k) => [k.kind, k.channel])));
  const [zone, setZone] = useState(wishes.zone);
  const [quiet, setQuiet] = useState([wishes.quiet_from, wishes.quiet_to]);
  const [digest, setDigest] = useState(wishes.digest_at);
  const [phone, setPhone] = useState(wishes.phone);
  const [asked, setAsked] = useState(() => ("Notification" in window ? Notification.permission : "denied"));

  async function send(event: FormEvent) {
    event.preventDefault();
    const body = {
      channels: ways,
      zone,
      quiet_from: quiet[0] ?? "",
      quiet_to: quiet[1] ?? "",
      digest_at: digest,
      phone,
    };
    if (!(await form.send(() => saveNotificationPreferences(body)))) return;
    await changed("preferences");
    toast("So you are told from now on.");
  }
  return (
    <chakra.form onSubmit={send}>
      <Box mb="14px">
        {wishes.kinds.map((kind) => (
          <Flex key={kind.kind} gap="12px" py="4px" align="center" borderBottomWidth="1px" borderColor="rule">
            <chakra.label htmlFor={`way-${kind.kind}`} flex="1">
              {kind.about}
            </chakra.label>
            <Picker
              id={`way-${kind.kind}`}
              w="190px"
              flex="none"
              value={ways[kind.kind]}
              aria-invalid={form.at(`/channels/${kind.kind}`) ? true : undefined}
              onChange={(e) => setWays({ ...ways, [kind.kind]: e.currentTarget.value })}
            >
              {WAYS.filter(([way]) => way !== "text" || wishes.texts).map(([way, words]) => (
                <option key={way} value={way}>
                  {words}
                </option>
              ))}
            </Picker>
          </Flex>
        ))}
      </Box>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="0 20px">
        <ZoneField label="Your time zone" value={zone} change={setZone} error={form.at("/zone")} />
        <Field
          label="The digest comes at"
          type="time"
          value={digest}
          error={form.at("/digest_at")}
          onChange={(e) => setDigest(e.currentTarget.value)}
        />
        <Field
          label="Nothing is sent from"
          type="time"
          value={quiet[0]}
          error={form.at("/quiet_from")}
          onChange={(e) => setQuiet([e.currentTarget.value, quiet[1] ?? ""])}
        />
        <Field
          label="until"
          type="time"
          value={quiet[1]}
          error={form.at("/quiet_to")}
          onChange={(e) => setQuiet([quiet[0] ?? "", e.currentTarget.value])}
        />
        {wishes.texts && (
          <Field
            label="Number for text messages"
            type="tel"
            autoComplete="tel"
            placeholder="+34 600 000 000"
            value={phone}
            error={form.at("/phone")}
            onChange={(e) => setPhone(e.currentTarget.value)}
          />
        )}
      </Box>
      <Flex gap="10px" flexWrap="wrap">
        <Button type="submit" kind="main" disabled={form.busy}>
          Keep
        </Button>
        {asked === "default" && (
          <Button onClick={async () => setAsked(await Notification.requestPermission())}>
            Also by this browser’s own notifications
          </Button>
        )}
        {asked === "granted" && <Box color="faded">This browser tells you too, while Menudo is open.</Box>}
      </Flex>
    </chakra.form>
  );
}
