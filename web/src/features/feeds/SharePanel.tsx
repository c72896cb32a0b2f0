import { Box, Flex } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { shareArticles } from "@/data/feeds";
import { ProfilePicker } from "@/features/posts/ProfilePicker";
import { trayWords } from "@/features/posts/trayWords";
import { useProfiles, useSets } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { SidePanel } from "@/ui/SidePanel";
import { TextArea } from "@/ui/TextArea";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { type Article, useFeedAction } from "./queries";

type Props = { articles: Article[]; close: () => void; done: () => void };

/** A remark, the profiles, and when: now a draft, or at the next free slots. */
export function SharePanel({ articles, close, done }: Props) {
  const { brand, may } = useBrandContext();
  const navigate = useNavigate();
  const here = useHere();
  const form = useForm();
  const act = useFeedAction(brand.slug);
  const profiles = useProfiles(brand.slug).data ?? [];
  const sets = useSets(brand.slug).data ?? [];
  const [remark, setRemark] = useState("");
  const [chosen, setChosen] = useState<number[]>([]);
  async function share(plans: boolean) {
    const body = { articles: articles.map((a) => a.id), remark, profiles: chosen, plans };
    const from = here();
    let posts: number[] = [];
    let left: string[] = [];
    const fine = await form.send(async () => {
      const came = await shareArticles(brand.slug, body);
      posts = came.posts;
      left = came.left;
    });
    if (!fine) return;
    const many = posts.length > 1;
    const words = plans
      ? `${posts.length} ${many ? "are" : "is"} planned at the next free slots.`
      : trayWords(posts.length);
    await act(async () => undefined, left.length ? undefined : words);
    if (left.length) toast(left.join(" "), { wrong: true });
    done();
    if (!plans && !many && here() === from)
      await navigate({ to: "/$brand/bench/$post", params: { brand: brand.slug, post: String(posts[0]) }, search: {} });
  }
  return (
    <SidePanel title={articles.length > 1 ? `Share ${articles.length} articles` : "Share it"} open close={close}>
      {articles.map((one) => (
        <Box key={one.id} fontFamily="heading" fontSize="15px" mb="4px">
          {one.title}
        </Box>
      ))}
      <TextArea
        label={articles.length > 1 ? "Your remark, over each title" : "Your remark, over the title"}
        rows={4}
        value={remark}
        onChange={(e) => setRemark(e.currentTarget.value)}
        error={form.at("/remark")}
        autoFocus
      />
      <Box mb="14px">
        <ProfilePicker profiles={profiles} sets={sets} chosen={chosen} choose={setChosen} />
        {form.at("/profiles") && (
          <Box role="alert" color="pimenton" mt="4px">
            {form.at("/profiles")}
          </Box>
        )}
      </Box>
      {form.loose("/remark", "/profiles") && (
        <Box role="alert" color="pimenton" mb="10px">
          {form.loose("/remark", "/profiles")}
        </Box>
      )}
      <Flex gap="10px" flexWrap="wrap">
        {may("publish") && (
          <Button kind="main" disabled={form.busy} onClick={() => void share(true)}>
            Plan at the next free slots
          </Button>
        )}
        <Button disabled={form.busy} onClick={() => void share(false)}>
          {articles.length > 1 ? "Make drafts" : "Make a draft"}
        </Button>
      </Flex>
    </SidePanel>
  );
}
