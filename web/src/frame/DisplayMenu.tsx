import { BulbOutlined } from '@ant-design/icons';
import { Button, Popover, Segmented } from 'antd';
import { Fragment } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { useChoices } from '../api/hooks';
import { setReading, useReading } from '../theme/reading';
import { setDisplay, useDisplay, type Display } from '../theme/display';

/** How this device shows things: on paper or by torch, at what size of type, and how its person reads figures. */
export function DisplayMenu() {
  const display = useDisplay();
  const reading = useReading();
  const choices = useChoices().data?.reading ?? [];
  const queries = useQueryClient();
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      content={
        <div className="display-menu">
          <p id="display-ground">Ground</p>
          <Segmented<Display['ground']>
            aria-labelledby="display-ground"
            value={display.ground}
            onChange={ground => setDisplay({ ground })}
            options={[
              { value: 'paper', label: 'Paper' },
              { value: 'torch', label: 'By torch' },
              { value: 'device', label: 'As the device' },
            ]}
          />
          <p id="display-type">Type</p>
          <Segmented<Display['type']>
            aria-labelledby="display-type"
            value={display.type}
            onChange={type => setDisplay({ type })}
            options={[
              { value: 'usual', label: 'Usual' },
              { value: 'large', label: 'For arm’s length' },
            ]}
          />
          {choices.map(c => (
            <Fragment key={c.name}>
              <p id={`display-${c.name}`}>{c.title}</p>
              <Segmented
                aria-labelledby={`display-${c.name}`}
                value={reading[c.name] ?? ''}
                onChange={chosen => {
                  setReading({ [c.name]: chosen });
                  void queries.invalidateQueries();
                }}
                options={c.options.map(o => ({ value: o.name, label: o.title }))}
              />
            </Fragment>
          ))}
        </div>
      }
    >
      <Button
        type="text"
        className="display-button"
        aria-label="Display: light, size of type, units"
        icon={<BulbOutlined />}
      />
    </Popover>
  );
}
