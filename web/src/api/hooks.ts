import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { ask, client, type Schemas } from './client';

export const keys = {
  choices: ['choices'] as const,
  shops: ['shops'] as const,
  shop: (id: string) => ['shop', id] as const,
  machine: (id: string) => ['machine', id] as const,
  suit: (id: string) => ['suit', id] as const,
  photos: (id: string) => ['photos', id] as const,
  leads: (id: string) => ['leads', id] as const,
  sheet: (id: string) => ['sheet', id] as const,
  off: (id: string, stamp: number) => ['off', id, stamp] as const,
};

export const useChoices = () =>
  useQuery({ queryKey: keys.choices, queryFn: () => ask(client.GET('/choices')), staleTime: Infinity });

export const useShops = () => useQuery({ queryKey: keys.shops, queryFn: () => ask(client.GET('/shops')) });

export const useShop = (id: string | undefined) =>
  useQuery({
    queryKey: keys.shop(id ?? ''),
    enabled: !!id,
    queryFn: () => ask(client.GET('/shops/{id}', { params: { path: { id: id! } } })),
  });

export const useMachine = (id: string) =>
  useQuery({
    queryKey: keys.machine(id),
    queryFn: () => ask(client.GET('/machines/{id}', { params: { path: { id } } })),
  });

export const useSheet = (motor: string) =>
  useQuery({
    queryKey: keys.sheet(motor),
    staleTime: 0,
    queryFn: () => ask(client.GET('/motors/{id}/sheet', { params: { path: { id: motor } } })),
  });

/** What the terminals do after switch-off, with the capacitors that are saved. */
export const useOff = (motor: string, route: string, sound: boolean, stamp: number) =>
  useQuery({
    queryKey: [...keys.off(motor, stamp), route],
    enabled: sound,
    staleTime: Infinity,
    queryFn: () =>
      ask(client.GET('/motors/{id}/off', { params: { path: { id: motor }, query: { route: route as 'static' } } })),
  });

/** A change after which the lists it may have touched are read again. */
export function useChange<V, R>(change: (value: V) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    // The list of shops first, and the page drawn from it: what is gone from it is not asked for again.
    onSettled: async () => {
      await queries.invalidateQueries({ queryKey: keys.shops });
      await new Promise(drawn => setTimeout(drawn));
      await Promise.all(['shop', 'machine', 'sheet'].map(key => queries.invalidateQueries({ queryKey: [key] })));
    },
  });
}

export const at = (id: string) => ({ params: { path: { id } } });

export const changeMachine = (id: string, body: Schemas['ChangeMachineRequest']) =>
  ask(client.PUT('/machines/{id}', { ...at(id), body }));
export const addShop = (body: Schemas['ShopChange']) => ask(client.POST('/shops', { body }));
export const changeShop = (id: string, body: Schemas['ShopChange']) =>
  ask(client.PUT('/shops/{id}', { ...at(id), body }));
export const copyShop = (id: string, name: string) =>
  ask(client.POST('/shops/{id}/copy', { ...at(id), body: { name } }));
export const deleteShop = (id: string) => ask(client.DELETE('/shops/{id}', at(id)));
export const restoreShop = (id: string) => ask(client.POST('/shops/{id}/restore', at(id)));
export const addMachine = (shop: string, name: string) =>
  ask(client.POST('/shops/{id}/machines', { ...at(shop), body: { name } }));
export const copyMachine = (id: string, name: string) =>
  ask(client.POST('/machines/{id}/copy', { ...at(id), body: { name } }));
export const deleteMachine = (id: string) => ask(client.DELETE('/machines/{id}', at(id)));
export const restoreMachine = (id: string) => ask(client.POST('/machines/{id}/restore', at(id)));
export const addMotor = (machine: string, name: string) =>
  ask(client.POST('/machines/{id}/motors', { ...at(machine), body: { name } }));
export const deleteMotor = (id: string) => ask(client.DELETE('/motors/{id}', at(id)));
export const restoreMotor = (id: string) => ask(client.POST('/motors/{id}/restore', at(id)));
