import { useIsMutating, useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { ask, client, type Schemas } from './client';
import { keys } from './keys';

export const at = (id: string) => ({ params: { path: { id } } });
const onWay = (id: string, way: string) => ({ params: { path: { id, way } } });

/** What was read of a motor stands until the next answer is there; what was read of another never does. */
const standing = (motor: string) => ({
  placeholderData: <T>(old: T | undefined, before?: { queryKey: readonly unknown[] }) =>
    before?.queryKey[1] === motor ? old : undefined,
});
/** What never grows stale by itself: its key changes, or an event says so. */
const kept = (motor: string) => ({ staleTime: Infinity, ...standing(motor) });

export const useChoices = () =>
  useQuery({ queryKey: keys.choices, queryFn: () => ask(client.GET('/choices')), staleTime: Infinity });

export const useRulebook = (wanted = true) =>
  useQuery({
    queryKey: keys.rulebook,
    queryFn: () => ask(client.GET('/rulebook')),
    staleTime: Infinity,
    enabled: wanted,
  });

export const useSpoken = (shop: string | undefined) =>
  useQuery({
    queryKey: keys.spoken(shop ?? ''),
    enabled: !!shop,
    queryFn: () => ask(client.GET('/shops/{id}/spoken', at(shop!))),
  });

export const useShops = () => useQuery({ queryKey: keys.shops, queryFn: () => ask(client.GET('/shops')) });

/** Who is signed in here; without a name where nobody is known by one. */
export const useMe = () => useQuery({ queryKey: keys.me, queryFn: () => ask(client.GET('/me')), staleTime: 60_000 });

/** How long a list rests that fills in, before it is asked for again. */
const fillMs = 100;

export const useShop = (id: string | undefined) => {
  const changing = useIsMutating() > 0; // what is being changed, deleted above all, is not asked for meanwhile
  return useQuery({
    queryKey: keys.shop(id ?? ''),
    enabled: !!id,
    queryFn: () => ask(client.GET('/shops/{id}', at(id!))),
    refetchInterval: q => (q.state.data?.pending && !changing ? fillMs : false),
  });
};

const machineQuery = (id: string) => ({
  queryKey: keys.machine(id),
  queryFn: () => ask(client.GET('/machines/{id}', at(id))),
});
export const useMachine = (id: string) => useQuery(machineQuery(id));

/** A machine as it is now, whatever was read of it before. */
export const readMachine = (queries: QueryClient, id: string) =>
  queries.fetchQuery({ ...machineQuery(id), staleTime: 0 });

/** A motor's circuit, wire by wire, and what running it through its states found. */
export const useWiring = (motor: string, stamp: number, enabled = true) =>
  useQuery({
    queryKey: keys.wiring(motor, stamp),
    enabled,
    staleTime: 0,
    ...standing(motor),
    queryFn: () => ask(client.GET('/motors/{id}/wiring', at(motor))),
  });

/** Which parts of a shop's stores are not to be trusted. */
export const useDoubted = (shop: string, version: number) =>
  useQuery({
    queryKey: [...keys.doubted(shop), version],
    queryFn: () => ask(client.GET('/shops/{id}/stores/doubted', at(shop))),
    placeholderData: (old?: Schemas['Doubted'][] | null) => old,
  });

/** What is done with the parts on hand that a motor's circuit wants. */
export const takeParts = (motor: string, body: Schemas['Taking']) =>
  ask(client.POST('/motors/{id}/parts', { ...at(motor), body }));

/** The photos of a motor. */
export const usePhotos = (motor: string) =>
  useQuery({
    queryKey: keys.photos(motor),
    queryFn: () => ask(client.GET('/motors/{id}/photos', at(motor))),
  });

/** A motor's circuit after something was done to it. */
export const playWiring = (motor: string, body: Schemas['Playing']) =>
  ask(client.POST('/motors/{id}/wiring/play', { ...at(motor), body }));

export const useSheet = (motor: string, stamp: number, enabled = true) =>
  useQuery({
    queryKey: keys.sheet(motor, stamp),
    enabled,
    staleTime: 0,
    ...standing(motor),
    queryFn: () => ask(client.GET('/motors/{id}/sheet', at(motor))),
  });

export const useSuit = (motor: string, stamp: number) =>
  useQuery({
    queryKey: keys.suit(motor, stamp),
    ...standing(motor),
    queryFn: () => ask(client.GET('/motors/{id}/suit', at(motor))),
  });

export const useLeads = (motor: string, stamp: number) =>
  useQuery({
    queryKey: keys.leads(motor, stamp),
    ...standing(motor),
    queryFn: () => ask(client.GET('/motors/{id}/leads', at(motor))),
  });

/** The ways of feeding side by side for a motor as it is saved, by what matters. */
export const useRoutes = (motor: string, stamp: number, sound: boolean, matters: Schemas['FeedMatters']) =>
  useQuery({
    queryKey: keys.routes(motor, stamp, matters),
    enabled: sound,
    ...kept(motor),
    queryFn: () => ask(client.POST('/motors/{id}/routes', { ...at(motor), body: matters })),
  });

/** A way sized for a motor as it is saved. */
export const useWay = (motor: string, way: string, stamp: number, enabled: boolean) =>
  useQuery({
    queryKey: keys.way(motor, way, stamp),
    enabled: enabled && way !== '',
    staleTime: Infinity,
    placeholderData: (old: Schemas['FeedPage'] | undefined) => (old?.way === way ? old : undefined),
    queryFn: () => ask(client.GET('/motors/{id}/ways/{way}', onWay(motor, way))),
  });

/** What follows the hand on a way, with what is tried. */
export const tryWay = (motor: string, way: string, body: Schemas['Trial']) =>
  ask(client.POST('/motors/{id}/ways/{way}/trial', { ...onWay(motor, way), body }));

/** What the terminals do after switch-off, as it is saved. */
export const useOff = (motor: string, way: string, stamp: number, enabled: boolean) =>
  useQuery({
    queryKey: keys.off(motor, way, stamp),
    enabled: enabled && way !== '',
    staleTime: Infinity,
    queryFn: () => ask(client.GET('/motors/{id}/ways/{way}/off', onWay(motor, way))),
  });

/** What is sought in a shop's daybook. */
export interface Sought {
  machine?: string;
  kind?: string;
  words?: string;
  from?: string;
  until?: string;
  open?: boolean;
  before?: number;
  most?: number;
}

/** What was written down in a shop, the latest first. */
export const useDaybook = (shop: string, sought: Sought) =>
  useQuery({
    queryKey: keys.daybook(shop, sought),
    staleTime: 0,
    placeholderData: (old: Schemas['Daybook'] | undefined) => old,
    queryFn: () => ask(client.GET('/shops/{id}/entries', { params: { path: { id: shop }, query: sought } })),
  });

/** The steps of a motor's first run, and how each went. */
export const useFirstRun = (motor: string, stamp: number, enabled: boolean) =>
  useQuery({
    queryKey: keys.firstRun(motor, stamp),
    enabled,
    staleTime: 0,
    ...standing(motor),
    queryFn: () => ask(client.GET('/motors/{id}/first-run', at(motor))),
  });

/** What was read on a motor beside what was foretold. */
export const useProve = (motor: string, stamp: number, enabled: boolean) =>
  useQuery({
    queryKey: keys.prove(motor, stamp),
    enabled,
    ...kept(motor),
    queryFn: () => ask(client.GET('/motors/{id}/prove', at(motor))),
  });

/** Whether a motor is accepted by what was read and done. */
export const useAcceptance = (motor: string, stamp: number) =>
  useQuery({
    queryKey: keys.acceptance(motor, stamp),
    staleTime: 0,
    ...standing(motor),
    queryFn: () => ask(client.GET('/motors/{id}/acceptance', at(motor))),
  });

export const signMotor = (motor: string, body: Schemas['SignMotorRequest']) =>
  ask(client.POST('/motors/{id}/acceptance', { ...at(motor), body }));
export const learnMotor = (motor: string, body: Schemas['LearnMotorRequest']) =>
  ask(client.POST('/motors/{id}/learned', { ...at(motor), body }));
export const fitBank = (motor: string, body: Schemas['FitBankRequest']) =>
  ask(client.POST('/motors/{id}/bank', { ...at(motor), body }));
export const readMeterLog = (motor: string, body: Schemas['ReadMeterLogRequest']) =>
  ask(client.POST('/motors/{id}/meter-log', { ...at(motor), body }));

/** What may be wrong with a motor by what is seen and looked at. */
export const useDiagnosis = (
  motor: string,
  stamp: number,
  seen: { symptoms: string[]; looked: Schemas['DiagnoseLooked'][]; since?: boolean },
  enabled: boolean,
) =>
  useQuery({
    queryKey: keys.diagnosis(motor, stamp, seen),
    enabled,
    staleTime: 0,
    ...standing(motor),
    queryFn: () => ask(client.POST('/motors/{id}/diagnosis', { ...at(motor), body: seen })),
  });

/** The figures of a motor's plate, to reckon on with. */
export const useFiguresOf = (motor: string) =>
  useQuery({
    queryKey: keys.figures(motor),
    enabled: motor !== '',
    staleTime: 0,
    queryFn: () => ask(client.GET('/motors/{id}/figures', at(motor))),
  });

/** What can be taught on a motor. */
export const useLessons = (motor: string) =>
  useQuery({
    queryKey: keys.lessons(motor),
    enabled: motor !== '',
    ...standing(motor),
    queryFn: () => ask(client.GET('/motors/{id}/lessons', at(motor))),
  });

/** The sums of a motor any way round. */
export const useReckoning = (body: Schemas['ReckonRequest']) =>
  useQuery({
    queryKey: keys.reckoning(body),
    staleTime: Infinity,
    placeholderData: (old: Schemas['Reckoned'] | undefined) => old,
    queryFn: () => ask(client.POST('/reckonings', { body })),
  });

export const useSettings = (motor: string, stamp: number, enabled: boolean) =>
  useQuery({
    queryKey: keys.settings(motor, stamp),
    enabled,
    ...kept(motor),
    queryFn: () => ask(client.GET('/motors/{id}/settings', at(motor))),
  });

const drawn = () => new Promise(done => setTimeout(done));

/**
 * Everything that may rest on a shop, a machine or a motor is asked for anew: the lists first, and the page drawn from
 * them, so that what is gone, or has another stamp by now, is not asked for again.
 */
export async function readAgain(queries: QueryClient) {
  for (const list of [['shops'], ['shop', 'machine']]) {
    await Promise.all(list.map(key => queries.invalidateQueries({ queryKey: [key] })));
    await drawn();
  }
  const had = ['shops', 'shop', 'machine', ...keys.standing];
  await queries.invalidateQueries({ predicate: q => !had.includes(String(q.queryKey[0])) }, { cancelRefetch: false });
}

/** What is shown of some things is asked for anew; nobody waits for it. */
export const readSome = (queries: QueryClient, ...names: string[]) => {
  for (const name of names) void queries.invalidateQueries({ queryKey: [name] });
};

/** What was drawn with a motor beside others, such as its machine's other motors, is asked for anew. */
export const readBeside = (queries: QueryClient, motor: string) => {
  const own = ['shops', 'machine', ...keys.standing];
  return queries.invalidateQueries({
    predicate: q => q.queryKey[1] !== motor && !own.includes(String(q.queryKey[0])),
  });
};

/** A change after which what it may have touched is read again. */
export function useChange<V, R>(change: (value: V) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => readAgain(queries) });
}

export const changeMachine = (id: string, body: Schemas['ChangeMachineRequest']) =>
  ask(client.PUT('/machines/{id}', { ...at(id), body }));
export const testSupply = (body: Schemas['SupplyTest']) => ask(client.POST('/supply-tests', { body }));
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
export const readFloor = (shop: string) => ask(client.GET('/shops/{id}/floor', at(shop)));
export const tryFloor = (shop: string, body: Schemas['SiteState']) =>
  ask(client.POST('/shops/{id}/floor', { ...at(shop), body }));
export const leaveFloor = (shop: string, body: Schemas['SiteState']) =>
  ask(client.PUT('/shops/{id}/floor/state', { ...at(shop), body, keepalive: true }));
export const changeSite = (shop: string, body: Schemas['SiteChange']) =>
  ask(client.PUT('/shops/{id}/site', { ...at(shop), body, keepalive: true }));
export const startOnFloor = (shop: string, body: Schemas['Starting']) =>
  ask(client.POST('/shops/{id}/starts', { ...at(shop), body }));

/** What the code says of each thing on a floor. */
export const useFloorCards = (shop: string, version: number) =>
  useQuery({
    queryKey: [...keys.cards(shop), version],
    queryFn: () => ask(client.GET('/shops/{id}/floor/cards', at(shop))),
    placeholderData: (old?: Schemas['FloorCard'][] | null) => old,
  });

/** What may run together, at the loads of a state. */
export const useTogether = (shop: string, version: number, shares: Record<string, number>) =>
  useQuery({
    queryKey: [...keys.together(shop), version, shares],
    queryFn: () => ask(client.POST('/shops/{id}/together', { ...at(shop), body: { shares } })),
    placeholderData: (old: Schemas['FloorTogether'] | undefined) => old,
    staleTime: Infinity,
  });

/** A shop's day, for its wall. */
export const useDay = (shop: string) =>
  useQuery({ queryKey: keys.day(shop), queryFn: () => ask(client.GET('/shops/{id}/day', at(shop))) });

export const takePlate = (shop: string, text: string) =>
  ask(client.POST('/shops/{id}/plates', { ...at(shop), body: { text } }));

/** What a converter could be. */
export const useConverter = (shop: string, id: string) =>
  useQuery({
    queryKey: keys.converter(shop, id),
    queryFn: () =>
      ask(client.GET('/shops/{id}/converters/{converter}', { params: { path: { id: shop, converter: id } } })),
  });
