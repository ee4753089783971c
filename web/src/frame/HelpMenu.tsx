import { QuestionCircleOutlined } from '@ant-design/icons';
import { Button, Popover } from 'antd';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { useChoices } from '../api/hooks';

/** Where one is: a step of a machine's card, or the place itself. */
const placeOf = (path: string) => {
  const [place = '', one, step = 'size'] = path.split('/').slice(1);
  return place === 'machines' && one ? step : place || 'floor';
};

/** What this screen is for, in a sentence, and the lesson that goes with it. */
export function HelpMenu() {
  const place = placeOf(useLocation().pathname);
  const help = useChoices().data?.helps.find(h => h.place === place);
  const [open, setOpen] = useState(false);
  if (!help) return null;
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      open={open}
      onOpenChange={setOpen}
      content={
        <div className="help">
          <p>{help.says}</p>
          <Link to={`/rulebook?tab=lessons&lesson=${help.lesson}`} onClick={() => setOpen(false)}>
            A lesson: {help.title}
          </Link>
        </div>
      }
    >
      <Button type="text" aria-label="What this is for" icon={<QuestionCircleOutlined />} />
    </Popover>
  );
}
