"""The words that Basilica itself puts on pages, in the languages that ship. A map can write others.

Where a language is not here, the words are English, and a finding says so. `{}` stands for a label.
"""

from __future__ import annotations

from collections.abc import Mapping

PHRASES: dict[str, str] = {
    "skip": "The link at the very top that leads past the menu.",
    "menu": "On the button behind which the main menu folds.",
    "main": "The name of the main menu, for those who cannot see it.",
    "footer": "The name of the menu in the footer, for those who cannot see it.",
    "utility": "The name of the menu above the header, for those who cannot see it.",
    "breadcrumb": "The name of the breadcrumbs, for those who cannot see them.",
    "under": "On a button that opens what is under a page, and the name of the list of these; `{}` is the page.",
    "more": "On the mark that opens the breadcrumbs in the middle.",
    "outside": "What is read out at a link that leaves the site.",
    "sequence": "The name of the links to the page before and the one after.",
    "previous": "Before the label of the page before.",
    "next": "Before the label of the page after.",
    "all-pages": "The name of the list of all pages.",
    "not-found": "The title of the page for addresses that do not exist.",
    "not-found-text": "Content.",
    "go-home": "Its link home.",
    "moved": "The title of the page at an old address.",
    "moved-text": "Content; `{}` is the link.",
    "search": "On a form that searches: its field and its button.",
    "send": "On the button of a form that sends a message.",
    "your-name": "On a form: the field for a name.",
    "your-mail": "On a form: the field for an address of a mailbox.",
    "your-message": "On a form: the field for what one has to say.",
}
"""Each phrase by its name in the map, and what it is for."""

MENU_NAMES = ("main", "footer", "utility")
"""Phrases that name menus, those of the same name."""
PART_NAMES = ("breadcrumb", "sequence", "all-pages")
"""Phrases that name other parts of a page. Those who cannot see the parts tell them apart by these."""

_NAMES = tuple(PHRASES)

# fmt: off
_LANGUAGES: dict[str, tuple[str, ...]] = {
    "en": (
        "Skip to content", "Menu", "Main", "Footer", "Utility", "Breadcrumb", "Pages under {}", "Show those between",
        "opens elsewhere", "Previous and next", "Previous", "Next", "All pages", "Page not found",
        "There is no page at this address. It may have moved, or the address may be misspelt.",
        "Go to the home page", "This page has moved", "It is now at {}.",
        "Search", "Send", "Your name", "Your e-mail address", "Your message",
    ),
    "de": (
        "Zum Inhalt springen", "Menü", "Hauptmenü", "Fußzeile", "Hilfsmenü", "Brotkrumen", "Seiten unter {}",
        "Dazwischenliegende zeigen", "führt zu einer anderen Website", "Vorige und nächste Seite", "Zurück", "Weiter",
        "Alle Seiten", "Seite nicht gefunden",
        "Unter dieser Adresse gibt es keine Seite. Vielleicht ist sie umgezogen, oder die Adresse ist falsch.",
        "Zur Startseite", "Diese Seite ist umgezogen", "Sie steht jetzt hier: {}.",
        "Suchen", "Senden", "Ihr Name", "Ihre E-Mail-Adresse", "Ihre Nachricht",
    ),
    "fr": (
        "Aller au contenu", "Menu", "Principal", "Pied de page", "Outils", "Fil d’Ariane", "Pages sous {}",
        "Afficher les niveaux intermédiaires", "mène à un autre site", "Précédent et suivant", "Précédent", "Suivant",
        "Toutes les pages", "Page introuvable",
        "Il n’y a pas de page à cette adresse. Elle a peut-être été déplacée, ou l’adresse est mal écrite.",
        "Aller à l’accueil", "Cette page a été déplacée", "Elle se trouve maintenant ici : {}.",
        "Rechercher", "Envoyer", "Votre nom", "Votre adresse e-mail", "Votre message",
    ),
    "es": (
        "Saltar al contenido", "Menú", "Principal", "Pie de página", "Utilidades", "Ruta de navegación",
        "Páginas bajo {}", "Mostrar los niveles intermedios", "lleva a otro sitio", "Anterior y siguiente", "Anterior",
        "Siguiente", "Todas las páginas", "Página no encontrada",
        "No hay ninguna página en esta dirección. Puede haberse movido, o la dirección puede estar mal escrita.",
        "Ir a la página de inicio", "Esta página se ha movido", "Ahora está en {}.",
        "Buscar", "Enviar", "Su nombre", "Su correo electrónico", "Su mensaje",
    ),
    "it": (
        "Vai al contenuto", "Menu", "Principale", "Piè di pagina", "Utilità", "Percorso", "Pagine sotto {}",
        "Mostra i livelli intermedi", "porta a un altro sito", "Precedente e successiva", "Precedente", "Successiva",
        "Tutte le pagine", "Pagina non trovata",
        "A questo indirizzo non c’è nessuna pagina. Forse è stata spostata, o l’indirizzo è scritto male.",
        "Vai alla pagina iniziale", "Questa pagina è stata spostata", "Ora si trova qui: {}.",
        "Cerca", "Invia", "Il suo nome", "Il suo indirizzo e-mail", "Il suo messaggio",
    ),
    "nl": (
        "Naar de inhoud", "Menu", "Hoofdmenu", "Voettekst", "Hulpmenu", "Kruimelpad", "Pagina’s onder {}",
        "Toon wat ertussen ligt", "leidt naar een andere site", "Vorige en volgende", "Vorige", "Volgende",
        "Alle pagina’s", "Pagina niet gevonden",
        "Op dit adres is geen pagina. Misschien is ze verplaatst, of is het adres verkeerd geschreven.",
        "Naar de startpagina", "Deze pagina is verplaatst", "Ze staat nu hier: {}.",
        "Zoeken", "Versturen", "Uw naam", "Uw e-mailadres", "Uw bericht",
    ),
    "pt": (
        "Ir para o conteúdo", "Menu", "Principal", "Rodapé", "Utilidades", "Caminho", "Páginas em {}",
        "Mostrar os níveis intermédios", "leva a outro site", "Anterior e seguinte", "Anterior", "Seguinte",
        "Todas as páginas", "Página não encontrada",
        "Não há nenhuma página neste endereço. Pode ter sido movida, ou o endereço pode estar mal escrito.",
        "Ir para a página inicial", "Esta página foi movida", "Agora está em {}.",
        "Pesquisar", "Enviar", "O seu nome", "O seu e-mail", "A sua mensagem",
    ),
    "sv": (
        "Hoppa till innehållet", "Meny", "Huvudmeny", "Sidfot", "Verktyg", "Brödsmulor", "Sidor under {}",
        "Visa dem däremellan", "leder till en annan webbplats", "Föregående och nästa", "Föregående", "Nästa",
        "Alla sidor", "Sidan hittades inte",
        "Det finns ingen sida på den här adressen. Den kan ha flyttat, eller så är adressen felstavad.",
        "Gå till startsidan", "Den här sidan har flyttat", "Den finns nu här: {}.",
        "Sök", "Skicka", "Ditt namn", "Din e-postadress", "Ditt meddelande",
    ),
    "cy": (
        "Neidio i’r cynnwys", "Dewislen", "Prif", "Troedyn", "Cyfleustodau", "Briwsion bara", "Tudalennau o dan {}",
        "Dangos y rhai rhyngddynt", "yn arwain at wefan arall", "Blaenorol a nesaf", "Blaenorol", "Nesaf",
        "Pob tudalen", "Heb ganfod y dudalen",
        "Nid oes tudalen yn y cyfeiriad hwn. Efallai ei bod wedi symud, neu fod y cyfeiriad wedi’i gamsillafu.",
        "Ewch i’r hafan", "Mae’r dudalen hon wedi symud", "Mae hi nawr yma: {}.",
        "Chwilio", "Anfon", "Eich enw", "Eich cyfeiriad e-bost", "Eich neges",
    ),
    "ar": (
        "تخطَّ إلى المحتوى", "القائمة", "القائمة الرئيسية", "التذييل", "روابط مساعدة", "مسار التنقل", "صفحات ضمن {}",
        "إظهار ما بينها", "يؤدي إلى موقع آخر", "السابق والتالي", "السابق", "التالي", "كل الصفحات",
        "الصفحة غير موجودة", "لا توجد صفحة في هذا العنوان. ربما نُقلت، أو كُتب العنوان خطأً.",
        "الذهاب إلى الصفحة الرئيسية", "نُقلت هذه الصفحة", "هي الآن هنا: {}.",
        "بحث", "إرسال", "اسمك", "بريدك الإلكتروني", "رسالتك",
    ),
    "he": (
        "דילוג לתוכן", "תפריט", "תפריט ראשי", "תחתית", "קישורי עזר", "נתיב ניווט", "דפים תחת {}", "הצגת מה שביניהם",
        "מוביל לאתר אחר", "הקודם והבא", "הקודם", "הבא", "כל הדפים", "הדף לא נמצא",
        "אין דף בכתובת הזו. ייתכן שהוא הועבר, או שהכתובת שגויה.", "לדף הבית", "הדף הזה הועבר",
        "הוא נמצא עכשיו כאן: {}.",
        "חיפוש", "שליחה", "שמך", "כתובת הדוא״ל שלך", "ההודעה שלך",
    ),
}
# fmt: on

ENGLISH: Mapping[str, str] = dict(zip(_NAMES, _LANGUAGES["en"], strict=True))
LANGUAGES = tuple(_LANGUAGES)
"""The languages that ship, by the first piece of their tags (RFC 5646)."""


def phrases(language: str, own: Mapping[str, str]) -> dict[str, str]:
    """Every phrase in a language (a tag such as `pt-BR`), with the map's ``own`` in place of those it gives."""
    known = _LANGUAGES.get(language.partition("-")[0].lower(), _LANGUAGES["en"])
    return {**dict(zip(_NAMES, known, strict=True)), **own}


def ships(language: str) -> bool:
    """Whether the words ship in a language."""
    return language.partition("-")[0].lower() in _LANGUAGES
