import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { useAction } from "@/ui/useAction";

export type Rota = Schemas["RotaOut"];
export type RotaPage = Schemas["RotaPage"];
export type Turn = Schemas["TurnOut"];
export type Upcoming = Schemas["UpcomingOut"];

export const useRotas = (brand: string) =>
  useQuery({
    queryKey: ["rotas", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/rotas", { params: { path: { brand } } })),
  });

export const useRota = (brand: string, id: number) =>
  useQuery({
    queryKey: ["rotas", brand, id],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/rotas/{rota_id}", { params: { path: { brand, rota_id: id } } })),
  });

export const useTopPosts = (brand: string) =>
  useQuery({
    queryKey: ["did-well", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/top-posts", { params: { path: { brand } } })),
  });

export const useQuotations = (brand: string, words: string, subject: Schemas["Subject"] | "") =>
  useQuery({
    queryKey: ["quotations", brand, words, subject],
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/quotations", {
          params: { path: { brand }, query: { words, ...(subject ? { subject } : {}) } },
        }),
      ),
    placeholderData: (before) => before,
  });

export const useRotaAction = (brand: string) => useAction(brand, ["rotas", "coming", "calendar", "profiles"]);
