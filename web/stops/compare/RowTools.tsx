import { Form } from 'react-bootstrap'
import { ORDERS, type Order } from './order-rows'
import styles from './compare.module.css'

interface Props {
  /** What the rows are called. */
  what: string
  /** Text that the names of rows are found by. */
  wanted: string
  onWanted: (text: string) => void
  order: Order
  onOrder: (order: Order) => void
}

/** Rows found by typing, in an order of one’s choice. */
export function RowTools({ what, wanted, onWanted, order, onOrder }: Props) {
  return (
    <span className={styles.tools}>
      <Form.Control
        size="sm"
        type="search"
        aria-label={`Find among the ${what}`}
        placeholder={`find among the ${what}`}
        value={wanted}
        onChange={(e) => onWanted(e.target.value)}
      />
      <Form.Select size="sm" aria-label="Order of the rows" value={order} onChange={(e) => onOrder(e.target.value as Order)}>
        {Object.entries(ORDERS).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </Form.Select>
    </span>
  )
}
