import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Field } from "@/ui/Field";
import { TextArea } from "@/ui/TextArea";
import { Colours } from "./Colours";
import { LogoField } from "./LogoField";
import { Scale } from "./Scale";
import type { Sheet } from "./useSheet";
import { WordList } from "./WordList";

type Props = {
  sheet: Sheet;
  change: (more: Partial<Sheet>) => void;
  at: (pointer: string) => string | undefined;
  writes: boolean;
};

const VOICE = { formal: 2, playful: 2, full: 2, words: [] as string[] };
const CONTACT = { email: "", phone: "", address: "" };

/** The sheet's parts in three columns of a desk: what it is, how it speaks, what it says. */
export function SheetFields({ sheet, change, at, writes }: Props) {
  const voice = { ...VOICE, ...(sheet.voice as Partial<typeof VOICE>) };
  const contact = { ...CONTACT, ...(sheet.contact as Partial<typeof CONTACT>) };
  return (
    <Box asChild border="0">
      <fieldset disabled={!writes}>
        <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr 1fr" }} gap="28px" mb="18px">
          <Part title="What it is">
            <TextArea
              label="About"
              rows={5}
              value={sheet.about}
              onChange={(e) => change({ about: e.currentTarget.value })}
              error={at("/about")}
            />
            <TextArea
              label="Audience"
              rows={3}
              value={sheet.audience}
              onChange={(e) => change({ audience: e.currentTarget.value })}
              error={at("/audience")}
            />
            <Field
              label="Web site"
              placeholder="https://"
              value={sheet.site}
              onChange={(e) => change({ site: e.currentTarget.value })}
              error={at("/site")}
            />
            <Field
              label="E-mail"
              value={contact.email}
              onChange={(e) => change({ contact: { ...contact, email: e.currentTarget.value } })}
              error={at("/contact/email")}
            />
            <Field
              label="Telephone"
              value={contact.phone}
              onChange={(e) => change({ contact: { ...contact, phone: e.currentTarget.value } })}
              error={at("/contact/phone")}
            />
            <Field
              label="Address"
              value={contact.address}
              onChange={(e) => change({ contact: { ...contact, address: e.currentTarget.value } })}
              error={at("/contact/address")}
            />
          </Part>
          <Part title="How it speaks">
            <Scale
              name="formal"
              from="plain"
              to="formal"
              value={voice.formal}
              change={(formal) => change({ voice: { ...voice, formal } })}
            />
            <Scale
              name="playful"
              from="serious"
              to="playful"
              value={voice.playful}
              change={(playful) => change({ voice: { ...voice, playful } })}
            />
            <Scale
              name="full"
              from="brief"
              to="full"
              value={voice.full}
              change={(full) => change({ voice: { ...voice, full } })}
            />
            <Scale
              name="salesy"
              from="never sells"
              to="sells"
              value={sheet.salesy}
              change={(salesy) => change({ salesy })}
            />
            <Scale
              name="emoji"
              from="no emoji"
              to="many emoji"
              value={sheet.emoji}
              change={(emoji) => change({ emoji })}
            />
            <WordList
              label="Its voice in a few words"
              values={voice.words}
              change={(words) => change({ voice: { ...voice, words } })}
              error={at("/voice/words")}
            />
            <WordList label="Words to use" values={sheet.use} change={(use) => change({ use })} error={at("/use")} />
            <WordList
              label="Words to avoid"
              values={sheet.avoid}
              change={(avoid) => change({ avoid })}
              error={at("/avoid")}
            />
          </Part>
          <Part title="What it says">
            <WordList
              label="Topics"
              values={sheet.topics}
              change={(topics) => change({ topics })}
              error={at("/topics")}
            />
            <WordList
              label="Standing hashtags"
              sign="#"
              values={sheet.hashtags}
              change={(hashtags) => change({ hashtags })}
              error={sheet.hashtags.map((_, n) => at(`/hashtags/${n}`)).find(Boolean)}
            />
            <Colours values={sheet.colours} change={(colours) => change({ colours })} />
            <LogoField logo={sheet.logo ?? null} change={(logo) => change({ logo })} error={at("/logo")} />
            <WordList
              label="Feeds of its own"
              values={sheet.feeds}
              change={(feeds) => change({ feeds })}
              error={at("/feeds")}
            />
            <Field
              label="Language (a tag: es, en-GB)"
              value={sheet.language}
              onChange={(e) => change({ language: e.currentTarget.value })}
              error={at("/language")}
              maxLength={35}
            />
            <Field
              label="Country, for its holidays (two letters: ES)"
              value={sheet.country}
              onChange={(e) => change({ country: e.currentTarget.value.toUpperCase() })}
              error={at("/country")}
              maxLength={2}
            />
          </Part>
        </Box>
      </fieldset>
    </Box>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box as="section" borderTopWidth="2px" borderColor="ink" pt="8px" minW="0">
      <Box as="h2" fontSize="18px" lineHeight="22px" mb="10px">
        {title}
      </Box>
      {children}
    </Box>
  );
}
