import { useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useCallback, useRef } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { useProfiles } from "@/features/profiles/queries";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Bench } from "./Bench";
import { EMPTY, fromPost } from "./draft";
import { usePost } from "./queries";

/** A post, new or kept. A new one gets its address when it is first kept, without leaving the page. */
export function BenchPage() {
  const { brand } = useBrandContext();
  const { post: param } = useParams({ from: "/$brand/bench/$post" });
  const search = useSearch({ from: "/$brand/bench/$post" });
  const navigate = useNavigate();
  const here = useHere();
  const made = useRef<{ id: string; key: string } | null>(null);
  // Each new post is a Bench of its own, also when one begins the next on the Bench of the last.
  const visit = useRef({ param, count: 0 });
  if (visit.current.param !== param) visit.current = { param, count: visit.current.count + 1 };
  const profiles = useProfiles(brand.slug);
  const id = /^\d{1,15}$/.test(param) ? Number(param) : null;
  const post = usePost(brand.slug, id);
  const key = made.current?.id === param ? made.current.key : `${param}:${visit.current.count}`;
  const keyNow = useRef(key);
  keyNow.current = key;

  const onMade = useCallback(
    (newId: number) => {
      // Whoever is on the way to another page, which isn't there yet, is not led back.
      if (here() !== `/${brand.slug}/bench/new`) return;
      made.current = { id: String(newId), key: keyNow.current };
      void navigate({
        to: "/$brand/bench/$post",
        params: { brand: brand.slug, post: String(newId) },
        search: {},
        replace: true,
      });
    },
    [brand.slug, navigate, here],
  );

  if (profiles.error) return <QueryFailed error={profiles.error} again={() => profiles.refetch()} />;
  if (post.error && !post.data) return <QueryFailed error={post.error} again={() => post.refetch()} />;
  if (!profiles.data || (id !== null && !post.data)) return <Loading />;
  const byDefault = profiles.data.filter((p) => p.is_default).map((p) => p.id);
  const chosen = search.profile ? [search.profile] : byDefault;
  return (
    <Bench
      key={key}
      profiles={profiles.data}
      loaded={post.data ?? null}
      first={
        post.data
          ? fromPost(post.data)
          : { ...EMPTY, master: { ...EMPTY.master, text: search.text ?? "" }, profiles: chosen }
      }
      date={search.date}
      time={search.time}
      onMade={onMade}
    />
  );
}
