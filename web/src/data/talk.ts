import { queryOptions } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { brandKey } from "./keys";

export const talkQueries = {
  post: (brand: string, id: number | null) =>
    queryOptions({
      queryKey: brandKey("talk", brand, id),
      queryFn: () => fetchTalk(brand, id ?? 0),
      enabled: id !== null,
    }),
};

/** Say something; @ and a person's whole name tells them. */
export const createRemark = (brand: string, postId: number, body: Schemas["RemarkIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/remarks", { params: { path: { brand, post_id: postId } }, body }),
  );

/** Other words for one's own remark. */
export const updateRemark = (brand: string, postId: number, remarkId: number, body: Schemas["RemarkTextIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/posts/{post_id}/remarks/{remark_id}", {
      params: { path: { brand, post_id: postId, remark_id: remarkId } },
      body,
    }),
  );

/** Say that a remark is dealt with, or after all not. */
export const resolveRemark = (brand: string, postId: number, remarkId: number, body: Schemas["ResolvedIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/remarks/{remark_id}/resolved", {
      params: { path: { brand, post_id: postId, remark_id: remarkId } },
      body,
    }),
  );

/** Take one's own remark back. */
export const deleteRemark = (brand: string, postId: number, remarkId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/posts/{post_id}/remarks/{remark_id}", {
      params: { path: { brand, post_id: postId, remark_id: remarkId } },
    }),
  );

/** Be told of what happens to the post, or no more. */
export const watchPost = (brand: string, postId: number, body: Schemas["WatchIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/posts/{post_id}/watch", { params: { path: { brand, post_id: postId } }, body }));

/** Remarks in order, open tasks, who watches. */
const fetchTalk = (brand: string, postId: number) =>
  unwrap(api.GET("/api/brands/{brand}/posts/{post_id}/talk", { params: { path: { brand, post_id: postId } } }));

/** It is seen to. */
export const completeTask = (brand: string, postId: number, taskId: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/tasks/{task_id}/done", {
      params: { path: { brand, post_id: postId, task_id: taskId } },
    }),
  );

/** Ask somebody to see to the post. */
export const assignTask = (brand: string, postId: number, body: Schemas["TaskIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/tasks", { params: { path: { brand, post_id: postId } }, body }));
