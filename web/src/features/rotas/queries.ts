import { useQuery } from "@tanstack/react-query";
import { api, got, type Schemas } from "@/api/client";
import { useDeed } from "@/ui/useDeed";

export type Rota = Schemas["RotaOut"];
export type RotaPage = Schemas["RotaPage"];
export type Turn = Schemas["TurnOut"];
export type Coming = Schemas["ComingOut"];

export const useRotas = (brand: string) =>
  useQuery({
    queryKey: ["rotas", brand],
    queryFn: () => got(api.GET("/api/brands/{brand}/rotas", { params: { path: { brand } } })),
  });

export const useRota = (brand: string, id: number) =>
  useQuery({
    queryKey: ["rotas", brand, id],
    queryFn: () => got(api.GET("/api/brands/{brand}/rotas/{id}", { params: { path: { brand, id } } })),
  });

export const useDidWell = (brand: string) =>
  useQuery({
    queryKey: ["did-well", brand],
    queryFn: () => got(api.GET("/api/brands/{brand}/did-well", { params: { path: { brand } } })),
  });

export const useQuotations = (brand: string, words: string, subject: Schemas["Subject"] | "") =>
  useQuery({
    queryKey: ["quotations", brand, words, subject],
    queryFn: () =>
      got(
        api.GET("/api/brands/{brand}/quotations", {
          params: { path: { brand }, query: { words, ...(subject ? { subject } : {}) } },
        }),
      ),
    placeholderData: (before) => before,
  });

export const useRotaDeed = (brand: string) => useDeed(brand, ["rotas", "coming", "calendar", "profiles"]);
