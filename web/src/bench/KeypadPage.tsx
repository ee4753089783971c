import { useParams } from 'react-router';
import { DriveBench } from './DriveBench';
import './bench.css';

/** A simulated drive on a page of its own, without a shop. */
export function KeypadPage() {
  const { drive = '' } = useParams();
  return (
    <main className="keypad-page">
      <header>
        <h1>A simulated drive</h1>
        <p className="soft">
          Nothing here is live. At a real one: isolate, wait for its bus, prove dead. Local code has the last word.
        </p>
      </header>
      <DriveBench id={drive} />
    </main>
  );
}
