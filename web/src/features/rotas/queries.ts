import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { rotaQueries } from "@/data/rotas";
import { useAction } from "@/ui/useAction";

export type Rota = Schemas["RotaOut"];
export type RotaPage = Schemas["RotaPage"];
export type Turn = Schemas["TurnOut"];
export type Upcoming = Schemas["UpcomingOut"];

export const useRotas = (brand: string) => useQuery(rotaQueries.list(brand));

export const useRota = (brand: string, id: number) => useQuery(rotaQueries.one(brand, id));

export const useTopPosts = (brand: string) => useQuery(rotaQueries.topPosts(brand));

export const useQuotations = (brand: string, words: string, subject: Schemas["Subject"] | "") =>
  useQuery(rotaQueries.quotations(brand, words, subject));

export const useRotaAction = (brand: string) => useAction(brand, ["rota", "profile"]);
