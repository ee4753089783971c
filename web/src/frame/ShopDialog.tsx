import { Modal } from 'antd';
import type { Schemas, Supply } from '../api/client';
import { ShopForm } from './ShopForm';

export function ShopDialog({
  shop,
  onSave,
  onClose,
}: {
  shop?: Schemas['ShopHead'];
  onSave: (value: { name: string; supply: Supply }) => Promise<void>;
  onClose: () => void;
}) {
  return (
    <Modal
      open
      title={shop ? 'Name and supply' : 'New shop'}
      footer={null}
      onCancel={onClose}
      destroyOnHidden
      afterOpenChange={open => open && document.getElementById('shop-name')?.focus()}
    >
      <ShopForm shop={shop} onSave={onSave} action={shop ? 'Save' : 'Make the shop'} />
    </Modal>
  );
}
