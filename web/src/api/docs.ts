import "swagger-ui-dist/swagger-ui.css";
// @ts-expect-error the package ships no types
import SwaggerUIBundle from "swagger-ui-dist/swagger-ui-bundle.js";

SwaggerUIBundle({ url: "/api/openapi.json", dom_id: "#api", deepLinking: true, validatorUrl: null });
