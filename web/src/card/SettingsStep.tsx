import { Select } from 'antd';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, client, words } from '../api/client';
import './settings.css';

/** What a drive for the motor is to be set to, under our own plain names, with the parameters of the drive at hand beside them. */
export function SettingsStep({ motor, sound, stamp }: { motor: string; sound: boolean; stamp: number }) {
  const [profile, setProfile] = useState('');
  const settings = useQuery({
    queryKey: ['settings', motor, stamp, profile], enabled: sound, staleTime: Infinity, placeholderData: keepPreviousData,
    queryFn: () => ask(client.GET('/motors/{id}/settings', { params: { path: { id: motor }, query: { profile } } })),
  });
  if (!sound) return <section className="panel empty-step"><h2>No settings from this plate yet</h2><p>The sentences on the plate and the verdicts below it say what is missing or does not agree.</p></section>;
  if (settings.isError) return <p className="problem" role="alert">{words(settings.error)}</p>;
  if (!settings.data) return <p className="soft">Making the list…</p>;
  const { entries, profiles } = settings.data;
  return (
    <section className="panel settings-step">
      <header>
        <h2>If a drive feeds it</h2>
        <label className="idler">Drive at hand <Select aria-label="Drive at hand" value={profile} onChange={setProfile} popupMatchSelectWidth={false}
          options={[{ value: '', label: 'none in particular' }, ...profiles.map((name) => ({ value: name, label: name }))]} /></label>
        <a href={`/api/motors/${motor}/settings.csv?profile=${encodeURIComponent(profile)}`}>As CSV, with boxes for what it was and is</a>
      </header>
      <p className="caution-line">Isolate and wait for the bus before any terminal is touched; prove it dead. Set these before the motor turns, and read them back.</p>
      <div className="settings-table">
        <table className="facts">
          <thead><tr><th scope="col">Setting</th><th scope="col">Set to</th>{profile && <><th scope="col">Parameter</th><th scope="col">Write</th></>}<th scope="col">Why</th><th scope="col">Mostly found at</th></tr></thead>
          <tbody>
            {entries.map((e) => (
              <tr key={e.name}>
                <th scope="row">{e.title}</th>
                <td className="figures">{e.value}</td>
                {profile && <><td className="figures">{e.parameter || <span className="soft">not there</span>}</td><td className="figures">{e.writes}</td></>}
                <td>{e.why}</td>
                <td className="soft">{e.wrong}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
