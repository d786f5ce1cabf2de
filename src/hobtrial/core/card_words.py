"""The words that cards are made of: plain, short, easy to type, and no two that sound alike in a class.

A list of our own. Words may be added and taken out at any time: a card is kept as a hash of what stands on it.
"""

from __future__ import annotations

from typing import Final

WORDS: Final = tuple(
    """
abbey able acorn acre active actor adder admiral advert aerial agate agile agree airfield airport airy album
alcove alder alert alive alley almanac almond alpaca alpine aluminium amber amble ample amulet anchor ancient
angler answer antelope anthem anvil appear apricot apron apt aqueduct arbour arch archer archive arctic armchair
armful army arrange arrival arrive arrow artichoke artist ash ask asparagus aspen assemble aster athlete atlas
attend attic auburn autumn avenue aviary avocado awake award aware awning azalea azure backdrop backpack badge
badger badminton bagel bagpipe bake baked bakery balance balanced balcony ballad ballet balloon ballpoint bamboo
banana bandage bandstand banjo banner barge baritone barley barn barnacle barometer baron barrel baseball
basement basil basin basket bassoon bathe bathtub baton battery bay bayou bazaar beacon beadwork beaker beam
beanbag beard beaver beckon bedrock bedroom beehive beeswax beetroot begin begonia belfry believe bell bellow
belong bench bend beret bergamot bicycle billboard bind birch biscuit bistro bittern blackbird blanket blend
blink blizzard bloom bloomer blossom blouse bluebell blueprint boat bobbin bobsleigh boil bolster bonfire bonnet
bonny bonsai bookcase bookmark bookshelf bookshop boomerang boot bootlace border borrow bottle bounce bouquet
boutique bowl bowler bowsprit box boxed bracelet bracken braid bramble branch brass brasserie brave breadbin
breakfast breathe breeze breezy brew briar brick bridge brief briefcase bright bring brioche brisk bristle broad
broadside brocade broccoli bronze brooch brook broom broth brush bubble bubblegum bubbly bucket buckle buckwheat
buffalo buffet bugle build builder bulb bullfinch bulrush bumper bundle bungalow bunting buoy burdock burgundy
burrow bushy bustle busy butter buttercup butterfly button buzz buzzard byway cabaret cabbage cabin cabinet
cable cactus caddy cadence cake calendar calico call calm camel camellia camera camomile campfire campsite canal
canary candid candle candy canoe canopy canvas canyon cape capsule captain caption caramel caravan caraway
cardigan careful caribou carnation carnival carousel carpet carriage carrot carry cartoon cartwheel carve carved
cascade cashew cassette castle catalogue catch catkin cauldron cavalry cavern cedar cedarwood celery celeste
cello cement centaur century ceramic chaffinch chair chalet chalk chamber chameleon champion channel charcoal
chariot charm chart chat chauffeur checkers cheddar cheer cheerful cheese chef cherry chestnut chew chicken
chickpea chicory chief chiffon chilly chime chimney chirp chisel chocolate choir chop chopstick chorus chowder
chuckle chunky cinder cinema cinnamon circle circus citrus civil clam clamber clap clarinet clasp classic clay
clean clear clever cliff climate climb cling cloak cloakroom clock close clothes cloud cloudy clover clown clue
coach coal coast coastal coaster cobalt cobble cockatoo cocoa coconut coffee coil coin colander collar collect
colony colour coloured column comb combine come comet comfy comic common compare compass compose compost concert
conifer content cook cool copper copse copy copybook coral corduroy coriander cork cormorant corn corner cornet
corridor cosmos costume cosy cottage cotton count country courtyard cove cover cowbell cowslip crab crackle
cradle craft crafty cranberry crane crate crater crawl crayon cream creamy create crescent cress crew cricket
crimson crinkly crisp crocus croissant croquet cross crossing crouton crown cruise crumble crumpet crunch crust
crusty crystal cuckoo cucumber cuddle cuff cup cupboard curator curious curl curlew curly curry curtain curved
cushion custard cutlery cutter cycle cygnet cypress daffodil dahlia dainty dairy daisy dale damask damp damson
dance dancer dandelion dangle dapple dappled daring dart dartboard dash dashing date dawn daylight decent decide
deck deckchair decoy deep deliver delta denim dense dentist depot describe design desk detective dial diamond
diary dice dig dill dine dinghy dingle dinner dinosaur diploma dipper direct discover dish distant ditch dive
diver divide dock doctor dolphin dome domino donkey doodle door doorbell doorway dormouse dot dotted double
dough dove downhill downy doze dragon draper draw drawer dream dreamy dress dresser dressing drift drifter drink
driver driveway drizzle drop druid drum drummer dry duchess duck duet duke dumpling dune dusk dusky duster dusty
duvet dwell dynamo eager eagle ear earl early earnest earring earth earthen easel east eastern easy eaves echo
eclipse edge eel egg eider eighth elastic elbow elder elegant elephant elf ellipse elm embark embassy ember
emerald emperor enamel encore endless engine enjoy ensemble enter entrance envelope envoy equal equator ermine
errand escort espresso essay estate estuary even evening evergreen exact expert explain explore explorer express
eyebrow eyelash fable fabric facade faded fairy faithful falcon fallow family famous fan fancy fanfare far farm
farmer farmhouse farthing fast fasten fawn feast feather feathery fedora feed felt fence fennel fern ferret
ferry festival festive fetch fiction fiddle field fiesta fifth fig figure filbert fill film filter final finch
fine fingertip finish firefly fireplace fireside firewood firm first fish fisher fisherman fizz fjord flag
flagpole flagstone flaky flame flamingo flannel flap flapjack flask flax fleece fleecy fleet flicker flint flip
flipper flit float flock flood floor floral florist flow fluffy flume fluorite flute fluted flutter fly flyer
foal foam fog foghorn fold folded folder foliage follow fond footpath footprint ford forest forge fork fortnight
fortress forward fossil foundry fountain fox foxglove foxhound frame frank freckle free freight frequent fresco
fresh friendly frilly fringe frog frolic frost frosty fruit fruity fudge fuel full funnel funny furnace furrow
furry fuse fuzzy gable gadget gala galaxy gallant galleon gallery galley gallon gallop galosh gander gannet
garage garden gardenia gargoyle garland garlic garment garnet gateway gather gaze gazebo gazelle gecko gem
gentian gentle geranium geyser gherkin giant gibbon gift gifted giggle gilded ginger gingham giraffe give
glacier glad glade gladiolus glance glass glassy glaze gleam gleaming glide glider glimmer glisten glitter globe
glossy glove glow glowing gnome goat goblet goblin goggles gold golden goldfinch goldfish golf gondola gong good
goose gorse gosling gourd governor graceful grain grammar granary grand granite grape graph grasp grass grassy
grateful grater gravel gravity gravy grebe green greet grid griddle grill grin gritty grocer grotto ground
grouse grove grow guard guava guess guide guild guinea guitar gulf gull gully gumboot guppy gurgle gutter gym
gymnast habitat hackney haddock haiku half hallway halo halt hammer hammock hamper hamster hand handbag handbook
handle handrail handshake handy hangar happy harbour hardy harlequin harmless harmony harness harp harpoon
harvest harvester hasty hat hatch hatchling hatstand haven hawk hawker hawthorn haystack hazel hazelnut headland
healthy hearth hearty heath heather heatwave heavy hedge hedgehog helium helmet help helper helpful henna herald
heraldry herb hermit hero heron herring hibiscus hiccup hidden hide highland highway hike hill hillside hilltop
hinge hippo historian hive hobby hockey hoist hold holiday hollow hollowed holly homeland homely homestead
homework honest honey honeycomb honeydew hood hoof hop hopeful hopscotch horizon hornbeam hornet horse horseshoe
hosepipe hospital host hostel hotel hotpot hourglass house hover huddle hug huge hull hum humble humid humming
hummus hurdle hurry hushed hut hyacinth hydrangea hydrant hyena ibis ice iceberg icicle icing icy idea ideal
igloo image imagine inch index indigo infant inform ink inkwell inland inlet inner innkeeper insect inspire
invent invite iris iron island itinerary ivory ivy jackal jackdaw jacket jackpot jade jaguar jamboree janitor
jar jasmine jasper jaunt jay jazz jeep jelly jersey jester jetstream jetty jewel jig jigsaw jingle jockey
jodhpurs jog join joiner joke jolly jot journal journey jovial joyful jubilee judo jug juggle juggler juice
jukebox jumble jumbo jump jumper junction jungle junior juniper jute kale kangaroo karate kayak kazoo keel keen
keep keeper kelp kennel kerchief kestrel ketchup kettle keyboard keystone khaki kickoff kiln kilt kimono kind
kindling kindly king kingdom kiosk kipper kitchen kite kitten kiwi knapsack knitted knitwear knock known knuckle
koala label lace lacewing lacquer lacrosse ladder ladle lady ladybird lagoon lake lamb lamp lamppost lance
landing landmark language lantern lapel lapwing larch larder large lark lasso lasting late lattice laugh launch
laundry laurel lava lavender lavish lawn layer leaf leaflet leafy lean leaning leap learn learned leather
lecture ledge ledger legend leisure lemon lemonade lend lens lentil leopard letter lettuce level lever liberty
library lid lifeboat lift light lighter likely lilac lily lilypad limerick limestone limousine limpet linden
line lined linen liner linger linnet lintel lion liquorice list listen litmus litre little lively lizard llama
loaf lobby lobster local loch locker locket lodge loft lofty log logbook lollipop long longboat look lookout
loom loop loose lord lorry lotion lotus loud lounge lovely lowland loyal lozenge lucky luggage lullaby lumber
lunar lunch lunchbox lupin lute lychee lyre lyric macaroni macaw machine mackerel magazine magenta magic magnet
magnolia magpie mahogany mailbox mainland major make mallard mallet mallow mammoth manatee mandarin mandolin
mango manor mansion mantel map maple marathon marble march mare margin marigold marina mariner marjoram marker
market marmalade marmot maroon marquee marrow marsh marshal marten marvel marzipan mascot mask mason mast match
matinee mattress mayor meadow meal measure mechanic medley megaphone mellow melody melon membrane memory mend
menu mercury meringue merlin mermaid merry mesa message meteor metre metro midday middle midnight midsummer
mighty mild mile milestone milk milkman milkshake mill millet million mimosa mincer mindful mineral minnow
minstrel mint minuet minute mirror mist mistletoe misty mitten mix mixed moat moccasin modem modern modest moist
mole molehill moment mongoose monitor monkey monsoon monument moon moonbeam moonlight moorland moose morning
morsel mortar mosaic moss mossy motel moth motif motor motorway mould mound mountain mouse moustache mouth movie
moving mudguard muesli muffin mug mulberry mule munch mural muralist murmur museum mushroom music musical muslin
mustang mustard myrtle mystery nail name napkin narcissus narrow narrowed narwhal nation natural nature nearby
nearest neat nebula neck necklace nectar needle neon nephew nest nettle network newspaper newt nibble nickel
niece nifty nightjar nimble nimbus ninth noble nod noisy nomad noodle nook noon normal north northern notch note
notebook notice nougat novel novice nudge nugget number nursery nut nuthatch nutmeg nutty nylon oak oaken
oarsman oasis oatmeal oats obelisk oboe observe ocean octave october octopus odd offer office officer oil
oilskin ointment olden olive omelette onion onlooker onyx opal open opener opera orange orbit orchard orchestra
orchid order oregano organ origami ornament osprey ostrich otter outback outer outfit outing outlaw outpost oval
oven overcoat overture owl oxbow oxtail oxygen oyster pack packet paddle paddler paddock padlock page pageant
pagoda paint painted palace palm pamphlet pancake panda panel panorama pansy panther pantry papaya paper paprika
papyrus parachute parade paragraph parasol parcel park parka parlour parrot parsley parsnip partridge party
passage passport pasta pastel pastille pastry pasture patch patchwork path patient patio patter pattern pavement
pavilion paving pea peaceful peach peacoat peacock peanut peat pebble pecan peep pelican pelt pencil pendulum
penguin penknife pennant penny pentagon peony people pepper peppery perch perfect perform perfume permit petal
petrel petunia pewter pharaoh pheasant photo physics pianist piano piccolo pick pickaxe pickle picnic picture
pier pigeon piglet pigment pigtail pike pilchard pillar pillow pilot pinball pine pineapple pinecone pint
pinwheel pioneer pipe pirate pistachio pitch pitcher pivot pizza placemat plaid plan planet plank plant plaster
plate plateau platform play player playmate plaza pleat plod plot plover pluck plucky plug plumage plumber plume
pluto plywood pocket podium poem poet point pointed poised polar polish polite polka pollen pollock polo pomelo
poncho pond ponder pontoon pony pool popcorn poplar poppy poppyseed porcelain porch porcupine porridge port
portable portal porter portfolio portrait post postbox postcard poster postman potato potluck potter pottery
pound powder prairie praise pram prance prawn precious prepare present pretty pretzel prickly prime primrose
princess print printer prism prize professor prompt propeller proper proud prune public pudding puddle puffin
pull pulley pullover pumpkin pupil puppet puppy pure purple purr push pushchair puzzle pyramid python quadrant
quagmire quail quaint quarry quarter quartet quartz quaver queen quench quest question quiche quick quiet quill
quilt quince quintet quiver quiz quota quotient rabbit race racket radar radiator radio radish raffle raft rail
railway rainbow raincoat raindrop raisin rake ramble rambler ranch ranger rapid rare raspberry ratchet rattle
raven ravine reach reader ready real realm rebound recall recipe recite record rectangle redstart redwood reef
referee reflect regal region regular reindeer relay relish remember repair reply rescue reservoir resin rest
restful return reveal reward rhubarb rhyme rhythm ribbon rice rich riddle ride rider ridge rigging rind ringlet
rink rinse ripe ripple risotto ritual rival river rivet road roam roast robe robin robust rock rocker rockery
rocket rodeo roller roof roofer rook room rooster rope rosemary rosette rosy rota rotunda round rove rover rowan
rowboat royal royalty rubble ruby rucksack rudder rug rugby rugged ruler rumba runner runny runway rush rust
rustic rustle sable saddle safari safe saffron saga sage sailor salad salmon salon salsa salt salty salute samba
samovar sand sandal sandbar sandpit sandstone sandwich sandy sapling sapphire sardine sash satchel satin saturn
saucepan saucer sauna saunter sausage savanna save savoury sawdust saxophone scale scallop scamper scarecrow
scarf scarlet scatter scenery scented scholar school schooner science scissors scone scoop scooter score
scorpion scout scrapbook screen scroll scrub sculptor scurry seabird seafarer seagull seahorse seal seaport
search seashell seaside season seat seaweed second secret secretary secure sedate sedge seed seesaw select
senate send sequin serenade serene sergeant series sesame settle seventh shade shadow shady shaggy shale shampoo
shamrock shape share shark sharp shawl sheaf shed sheep shelf shell shelter sheltered shepherd sherbet sheriff
shield shilling shimmer shine shingle shiny ship shirt shoal shoelace shop shore shorts shoulder shovel shower
shrew shrimp shrub shuffle shutter shuttle shy sienna sift sign signal signpost silent silk silky silo silver
silvery simple sincere sing singer single sip siren sitar sixth sizzle skate skeleton sketch sketchy ski skilful
skillet skip skipper skirt skittle sky skylark skyline slab slate sledge sleek sleepy sleet sleeve slender slice
slide slipper slogan slope sloth slow sluice small smart smelter smile smiling smithy smock smoke smooth
smoothie snack snail snapper snappy sneaker sneeze snipe snooze snorkel snow snowball snowdrop snowflake snowman
snowshoe snowy snug snuggle soak soap soccer sociable sock socket sofa soft soil solar soldier solid solo
soloist solve sombrero sonata song sonnet soot soprano sorbet sorrel sort sound soup south southern spa spade
span spaniel spare spark sparkly sparrow speak special speckled spectrum speech speedy spell sphere spice spicy
spider spin spinach spindle spine spiral spire splash splendid spokes sponge spool spoon sport spot spotted
spout sprig sprightly spring sprinkle sprint sprout spruce spry spur squad square squash squeeze squid squire
squirrel stable stack stadium staff stag stage stall stallion stamp stand stapler star starboard starfish
starling stately statement station statue stay steady steam steamer steep steeple stem stencil step steppe
sterling stew steward stilt stir stitch stoat stocking stone stool stoop stopwatch store storm stormy story
stout stove strand straw stream streamer street stretch stride string stripe striped stroll strong strudel
student studio study stump sturdy submarine subtle sugar sugary suitcase sultana summer summit sunbeam sundial
sunflower sunhat sunlit sunny sunrise sunset sunshine super supple sure surf surname surprise suspender swallow
swamp swan swatch sway sweater sweep sweetcorn swerve swift swim swimmer swing swirly swish switch swivel swoop
sycamore syllable symphony syrup system table tablet tadpole tailor take talent tall talon tame tangerine tango
tangy tank tankard tape tapestry tapioca target tarmac tarragon tart tartan tassel taste tasty tawny taxi teach
teacher teacup teal teammate teapot teasel telegram telephone telescope tell tempo tender tennis tent tenth
tepid term terrace terrapin terrier text textile thank thankful thatch theatre theory thermos thick thicket
thimble think third thistle thorn thorough thread thrifty throw thrush thumb thunder tiara ticket tickle tidy
tiger tile tiller timber timetable tinder tinsel tiny tiptoe tissue title toast toasted toboggan toddler toffee
token tomato tonic tool toolbox tooth topaz torch tornado tortoise toss toucan touch tough towel tower town toy
trace track tractor trade trader trail trailer train tram tranquil trapeze travel tray treacle tread treasure
treble tree treetop trek trellis triangle tribute trickle tricycle trident trifle trim trinket trio triplet
tripod troll trolley trombone trophy tropics trot trousers trout trowel truck true truffle trumpet trunk trusty
try tuba tuck tugboat tulip tulle tumble tumbler tundra tune tuneful tunic tunnel turban turbine tureen turf
turkey turn turner turnip turnstile turquoise turret turtle tutor tuxedo tweed twig twilight twin twine twinkly
twinset twirl twist typical ukulele umbrella uncle unfold unicorn uniform unique unit universe unpack unwind
upbeat uphill upland upper upright upstream urchin useful usher usual utensil vacation valet valley vanilla
vanish vapour varnish vase vast vault vegetable veld velvet velvety venture venue veranda verb verdant verse
vessel viaduct video view village vine vinegar vineyard viola violet violin visit visitor visor vitamin vivid
voice volcano vole volley volume voyage vulture wafer waffle wagon wagtail waistcoat waiter waitress wake walk
walker wall wallet walnut walrus waltz wand wander warble warbler warden wardrobe warehouse warm warren wash
washer wasp watch watchman water waterfall waterway wattle wavy waxy weasel weave weaver website wedding wedge
weekend weevil welcome well west western whelk whirl whisk whisker whiskers whisper whistle whiting whittle
wholemeal wick wicker wide widget wig wiggle wild wildcat wildlife wildwood willing willow wind windfall
windlass windmill window windsock windy wing winged wink winter wintry wise wish wisteria witness wizard wobble
wolf wombat wonder wooden woodland woodlark woodwind woodwork wool woolly word work workbench worker workshop
world worm woven wrangler wrapper wren wrestler wrist writer xylophone yacht yak yam yarn yarrow yawn year
yearly yeast yellow yeoman yodel yoga yoghurt yonder young youngster zebra zebu zenith zephyr zeppelin zest
zesty zigzag zinc zinnia zipper zither zodiac zone zoologist
""".split()
)
