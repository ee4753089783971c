import { BulbOutlined } from '@ant-design/icons';
import { Button, Popover, Segmented } from 'antd';
import { setDisplay, useDisplay, type Display } from '../theme/display';

/** How the screen looks on this device: on paper or by torch, and at what size of type. */
export function DisplayMenu() {
  const display = useDisplay();
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
        </div>
      }
    >
      <Button
        type="text"
        className="display-button"
        aria-label="Display: light and size of type"
        icon={<BulbOutlined />}
      />
    </Popover>
  );
}
