import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got, Problem, type Schemas } from "@/api/client";
import { say } from "@/ui/notices";

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

/** Do something to a rota, tell what stood in the way, and read again what it made old. True when it went through. */
export function useRotaDeed(brand: string) {
  const queries = useQueryClient();
  return async (act: () => Promise<unknown>, words?: string, undo?: () => Promise<void>): Promise<boolean> => {
    try {
      await act();
      if (words) say(words, { undo });
      return true;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      say(error.faults[0]?.detail ?? error.message, { wrong: true });
      return false;
    } finally {
      await Promise.all(
        ["rotas", "coming", "calendar", "profiles"].map((key) => queries.invalidateQueries({ queryKey: [key, brand] })),
      );
    }
  };
}
