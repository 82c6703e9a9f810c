import "../theme/opened.scss";
import "../theme/opened.css";

/** What opens over a screen, with its style: fetched with the first piece that uses it. */
export { Dropdown, Modal, ProgressBar, Tab, Tabs } from "react-bootstrap";
